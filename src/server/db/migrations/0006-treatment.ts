import { Migration } from '@mikro-orm/migrations';

export class TakeTreatment extends Migration {
  override async up() {
    this.addSql(`alter table "take" add column "treatment" jsonb null`);
  }
}
