import { Migration } from '@mikro-orm/migrations';

export class CutOff extends Migration {
  override async up() {
    this.addSql(`alter table "take" add column "cut_off" boolean not null default false`);
  }
}
