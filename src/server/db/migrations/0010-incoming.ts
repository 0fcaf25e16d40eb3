import { Migration } from '@mikro-orm/migrations';

export class IncomingFiles extends Migration {
  override async up() {
    this.addSql(
      `create table "incoming" ("id" text not null, "lesson_id" text not null, "name" text not null, "at_us" bigint not null, "take_id" text not null, "pages" int null, "created_at" timestamptz not null, constraint "incoming_pkey" primary key ("id"))`,
    );
    this.addSql(`create index "incoming_lesson_id_index" on "incoming" ("lesson_id")`);
    this.addSql(
      `alter table "incoming" add constraint "incoming_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade on delete cascade`,
    );
  }
}
