import { Migration } from '@mikro-orm/migrations';

export class NamedRigs extends Migration {
  override async up() {
    this.addSql(
      `create table "named_rig" ("id" text not null, "name" text not null, "rig" jsonb not null, "is_default" boolean not null default false, "deleted_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "named_rig_pkey" primary key ("id"))`,
    );
  }
}
