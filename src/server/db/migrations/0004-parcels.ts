import { Migration } from '@mikro-orm/migrations';

export class Parcels extends Migration {
  override async up() {
    // A job is about a take or a parcel, so it can no longer refer to one table.
    this.addSql(`alter table "job" drop constraint "job_take_id_foreign"`);
    this.addSql(`alter table "job" drop constraint "job_take_id_kind_unique"`);
    this.addSql(`alter table "job" rename column "take_id" to "subject"`);
    this.addSql(`alter table "job" add constraint "job_subject_kind_unique" unique ("subject", "kind")`);
    this.addSql(
      `create table "parcel" ("id" text not null, "lesson_id" text not null, "destination" jsonb not null, "cut" jsonb not null, "plan" jsonb not null, "facts" jsonb null, "deleted_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "parcel_pkey" primary key ("id"))`,
    );
    this.addSql(`create index "parcel_lesson_id_index" on "parcel" ("lesson_id")`);
    this.addSql(
      `alter table "parcel" add constraint "parcel_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade`,
    );
    this.addSql(
      `create table "share" ("token" text not null, "parcel_id" text null, "take_id" text null, "revoked_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "share_pkey" primary key ("token"))`,
    );
    this.addSql(
      `alter table "share" add constraint "share_parcel_id_foreign" foreign key ("parcel_id") references "parcel" ("id") on update cascade on delete set null`,
    );
    this.addSql(
      `alter table "share" add constraint "share_take_id_foreign" foreign key ("take_id") references "take" ("id") on update cascade on delete set null`,
    );
  }
}
