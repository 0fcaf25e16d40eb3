import { Migration } from '@mikro-orm/migrations';

export class StoresAndSchedule extends Migration {
  override async up() {
    this.addSql(
      `create table "scheduled" ("id" text not null, "lesson_id" text not null, "start_at" timestamptz not null, "stop_at" timestamptz null, "state" text not null, "problem" text null, "take" text null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "scheduled_pkey" primary key ("id"))`,
    );
    this.addSql(`create index "scheduled_lesson_id_index" on "scheduled" ("lesson_id")`);
    this.addSql(
      `create table "store" ("id" text not null, "name" text not null, "folder" text not null, "bytes_per_second" double precision null, "deleted_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "store_pkey" primary key ("id"))`,
    );
    this.addSql(`alter table "store" add constraint "store_folder_unique" unique ("folder")`);
    this.addSql(
      `create table "copy" ("id" serial primary key, "take_id" text not null, "store_id" text not null, "file" text not null, "name" text not null, "bytes" bigint not null, "sha256" text not null, "created_at" timestamptz not null, "updated_at" timestamptz not null)`,
    );
    this.addSql(`create index "copy_take_id_index" on "copy" ("take_id")`);
    this.addSql(
      `alter table "scheduled" add constraint "scheduled_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "copy" add constraint "copy_take_id_foreign" foreign key ("take_id") references "take" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "copy" add constraint "copy_store_id_foreign" foreign key ("store_id") references "store" ("id") on update cascade`,
    );
  }
}
