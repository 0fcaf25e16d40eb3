import { Migration } from '@mikro-orm/migrations';

export class SafeKeeping extends Migration {
  override async up() {
    this.addSql(`alter table "lesson" add column "rig_revision" int not null default 0`);
    this.addSql(`alter table "take" add column "partial" boolean not null default false`);
    this.addSql(`alter table "segment" add column "continues" boolean not null default false`);
    this.addSql(
      `create table "instance" ("id" text not null, "sweeps" int not null, constraint "instance_pkey" primary key ("id"))`,
    );
    this.addSql(
      `create table "cut_version" ("id" serial primary key, "lesson_id" text not null, "revision" int not null, "document" jsonb not null, "change" text not null, "pinned" boolean not null default false, "created_at" timestamptz not null)`,
    );
    this.addSql(
      `alter table "cut_version" add constraint "cut_version_lesson_id_revision_unique" unique ("lesson_id", "revision")`,
    );
    this.addSql(
      `alter table "cut_version" add constraint "cut_version_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade on delete cascade`,
    );
    // What was saved before has a history that begins there.
    this.addSql(
      `insert into "cut_version" ("lesson_id", "revision", "document", "change", "created_at") select "lesson_id", "revision", "document", 'Saved by the previous release', "updated_at" from "cut"`,
    );
  }
}
