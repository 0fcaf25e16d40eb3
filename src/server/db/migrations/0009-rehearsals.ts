import { Migration } from '@mikro-orm/migrations';

export class Rehearsals extends Migration {
  override async up() {
    this.addSql(
      `create table "rehearsal" ("id" text not null, "lesson_id" text not null, "number" int not null, "summary" jsonb not null, "trace" jsonb not null, "created_at" timestamptz not null, constraint "rehearsal_pkey" primary key ("id"))`,
    );
    this.addSql(
      `alter table "rehearsal" add constraint "rehearsal_lesson_id_number_unique" unique ("lesson_id", "number")`,
    );
    this.addSql(
      `alter table "rehearsal" add constraint "rehearsal_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade on delete cascade`,
    );
  }
}
