import { Migration } from '@mikro-orm/migrations';

export class CutTable extends Migration {
  override async up() {
    this.addSql(
      `create table "cut" ("lesson_id" text not null, "document" jsonb not null, "revision" int not null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "cut_pkey" primary key ("lesson_id"))`,
    );
    this.addSql(
      `alter table "cut" add constraint "cut_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade on delete cascade`,
    );
  }
}
