import { Migration } from '@mikro-orm/migrations';

export class First extends Migration {
  override async up() {
    this.addSql(
      `create table "lesson" ("id" text not null, "title" text not null, "stage" text not null, "rig" jsonb not null, "deleted_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "lesson_pkey" primary key ("id"))`,
    );
    this.addSql(
      `create table "take" ("id" text not null, "lesson_id" text not null, "number" int not null, "title" text null, "state" text not null, "rig" jsonb not null, "started_at" timestamptz not null, "browser" text not null, "machine" jsonb not null, "duration_us" bigint null, "pauses" jsonb null, "ledger" jsonb null, "facts" jsonb null, "deleted_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null, constraint "take_pkey" primary key ("id"))`,
    );
    this.addSql(`create index "take_lesson_id_index" on "take" ("lesson_id")`);
    this.addSql(
      `alter table "take" add constraint "take_lesson_id_number_unique" unique ("lesson_id", "number")`,
    );
    this.addSql(
      `create table "job" ("id" serial primary key, "take_id" text not null, "kind" text not null, "state" text not null, "progress" double precision not null, "step" text not null, "problem" text null, "started_at" timestamptz null, "created_at" timestamptz not null, "updated_at" timestamptz not null)`,
    );
    this.addSql(`alter table "job" add constraint "job_take_id_kind_unique" unique ("take_id", "kind")`);
    this.addSql(
      `create table "take_event" ("id" serial primary key, "take_id" text not null, "version" int not null, "seq" int not null, "at_us" bigint not null, "kind" text not null, "data" jsonb not null)`,
    );
    this.addSql(
      `alter table "take_event" add constraint "take_event_take_id_seq_unique" unique ("take_id", "seq")`,
    );
    this.addSql(
      `create table "track" ("id" serial primary key, "take_id" text not null, "kind" text not null)`,
    );
    this.addSql(`alter table "track" add constraint "track_take_id_kind_unique" unique ("take_id", "kind")`);
    this.addSql(
      `create table "segment" ("id" text not null, "track_id" int not null, "index" int not null, "start_us" bigint not null, "configuration" jsonb not null, "encoder_delay_us" int not null, "offset_us" bigint not null, "offset_how" text not null, "state" text not null, "bytes" bigint null, "sha256" text null, "index_bytes" bigint null, constraint "segment_pkey" primary key ("id"))`,
    );
    this.addSql(
      `alter table "segment" add constraint "segment_track_id_index_unique" unique ("track_id", "index")`,
    );
    this.addSql(
      `alter table "take" add constraint "take_lesson_id_foreign" foreign key ("lesson_id") references "lesson" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "job" add constraint "job_take_id_foreign" foreign key ("take_id") references "take" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "take_event" add constraint "take_event_take_id_foreign" foreign key ("take_id") references "take" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "track" add constraint "track_take_id_foreign" foreign key ("take_id") references "take" ("id") on update cascade`,
    );
    this.addSql(
      `alter table "segment" add constraint "segment_track_id_foreign" foreign key ("track_id") references "track" ("id") on update cascade`,
    );
  }
}
