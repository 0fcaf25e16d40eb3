SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;
SET default_tablespace = '';
SET default_table_access_method = heap;
CREATE TABLE public.copy (
    id integer NOT NULL,
    take_id text NOT NULL,
    store_id text NOT NULL,
    file text NOT NULL,
    name text NOT NULL,
    bytes bigint NOT NULL,
    sha256 text NOT NULL,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE SEQUENCE public.copy_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.copy_id_seq OWNED BY public.copy.id;
CREATE TABLE public.cut (
    lesson_id text NOT NULL,
    document jsonb NOT NULL,
    revision integer NOT NULL,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.job (
    id integer NOT NULL,
    subject text NOT NULL,
    kind text NOT NULL,
    state text NOT NULL,
    progress double precision NOT NULL,
    step text NOT NULL,
    problem text,
    started_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE SEQUENCE public.job_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.job_id_seq OWNED BY public.job.id;
CREATE TABLE public.lesson (
    id text NOT NULL,
    title text NOT NULL,
    stage text NOT NULL,
    rig jsonb NOT NULL,
    deleted_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.mikro_orm_migrations (
    id integer NOT NULL,
    name character varying(255),
    executed_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP
);
CREATE SEQUENCE public.mikro_orm_migrations_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.mikro_orm_migrations_id_seq OWNED BY public.mikro_orm_migrations.id;
CREATE TABLE public.named_rig (
    id text NOT NULL,
    name text NOT NULL,
    rig jsonb NOT NULL,
    is_default boolean DEFAULT false NOT NULL,
    deleted_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.parcel (
    id text NOT NULL,
    lesson_id text NOT NULL,
    destination jsonb NOT NULL,
    cut jsonb NOT NULL,
    plan jsonb NOT NULL,
    facts jsonb,
    deleted_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.scheduled (
    id text NOT NULL,
    lesson_id text NOT NULL,
    start_at timestamp with time zone NOT NULL,
    stop_at timestamp with time zone,
    state text NOT NULL,
    problem text,
    take text,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.segment (
    id text NOT NULL,
    track_id integer NOT NULL,
    index integer NOT NULL,
    start_us bigint NOT NULL,
    configuration jsonb NOT NULL,
    encoder_delay_us integer NOT NULL,
    offset_us bigint NOT NULL,
    offset_how text NOT NULL,
    state text NOT NULL,
    bytes bigint,
    sha256 text,
    index_bytes bigint
);
CREATE TABLE public.share (
    token text NOT NULL,
    parcel_id text,
    take_id text,
    revoked_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.store (
    id text NOT NULL,
    name text NOT NULL,
    folder text NOT NULL,
    bytes_per_second double precision,
    deleted_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL
);
CREATE TABLE public.take (
    id text NOT NULL,
    lesson_id text NOT NULL,
    number integer NOT NULL,
    title text,
    state text NOT NULL,
    rig jsonb NOT NULL,
    started_at timestamp with time zone NOT NULL,
    browser text NOT NULL,
    machine jsonb NOT NULL,
    duration_us bigint,
    pauses jsonb,
    ledger jsonb,
    facts jsonb,
    deleted_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL,
    cut_off boolean DEFAULT false NOT NULL,
    treatment jsonb
);
CREATE TABLE public.take_event (
    id integer NOT NULL,
    take_id text NOT NULL,
    version integer NOT NULL,
    seq integer NOT NULL,
    at_us bigint NOT NULL,
    kind text NOT NULL,
    data jsonb NOT NULL
);
CREATE SEQUENCE public.take_event_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.take_event_id_seq OWNED BY public.take_event.id;
CREATE TABLE public.track (
    id integer NOT NULL,
    take_id text NOT NULL,
    kind text NOT NULL
);
CREATE SEQUENCE public.track_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.track_id_seq OWNED BY public.track.id;
ALTER TABLE ONLY public.copy ALTER COLUMN id SET DEFAULT nextval('public.copy_id_seq'::regclass);
ALTER TABLE ONLY public.job ALTER COLUMN id SET DEFAULT nextval('public.job_id_seq'::regclass);
ALTER TABLE ONLY public.mikro_orm_migrations ALTER COLUMN id SET DEFAULT nextval('public.mikro_orm_migrations_id_seq'::regclass);
ALTER TABLE ONLY public.take_event ALTER COLUMN id SET DEFAULT nextval('public.take_event_id_seq'::regclass);
ALTER TABLE ONLY public.track ALTER COLUMN id SET DEFAULT nextval('public.track_id_seq'::regclass);
INSERT INTO public.job VALUES (1, 'kwKq337agxiSv60p_RISjw', 'finish-take', 'done', 1, 'Finished', NULL, '2026-11-27 14:24:04.312+00', '2026-11-27 14:24:03.903+00', '2026-11-27 14:24:05.607+00');
INSERT INTO public.lesson VALUES ('WG5Lm-lSUbYZwIaSztGNGg', 'Left in the browser by the previous release', 'set-up', '{"keys": {"mark": "m", "mute": "v", "stop": "s", "pause": "p", "record": "r"}, "names": {"pattern": "{lesson}, {take}"}, "sound": {"codec": "opus", "appKbps": 96, "voiceKbps": 64, "sampleRate": null}, "voice": {"talk": "open", "gainDb": 0, "source": {"id": "voice", "from": "practice"}, "delayMs": 0, "treated": "afterwards", "channels": 1, "treatment": {"gateDb": null, "denoise": false, "compressor": null, "highPassHz": null}}, "camera": {"size": {"width": 640, "height": 360}, "place": {"key": null, "free": null, "shape": "rounded", "width": 0.2, "border": null, "corner": "bottom-right", "mirror": false}, "source": {"id": "presenter", "from": "practice"}, "frameRate": {"den": 1, "num": 30}}, "limits": {"lengthS": null}, "stores": {"final": "studio", "working": "browser"}, "formats": [], "picture": {"aim": "whole", "box": {"width": 640, "height": 360}, "fit": "within", "codec": "automatic", "level": null, "speed": {"den": 1, "num": 1}, "filter": "browser", "follow": null, "source": {"id": "test-card", "from": "practice"}, "viewer": "player", "pointer": "as-captured", "profile": "automatic", "regions": [], "hardware": "automatic", "textHint": "automatic", "frameRate": {"den": 1, "num": 10}, "quantizer": 30, "whenBehind": "frames", "bitrateKbps": null, "rateControl": "average", "keyframeEvery": {"unit": "seconds", "value": 2}}, "purpose": null, "version": 2, "appSound": {"gainDb": 0, "source": {"id": "beep", "from": "practice"}, "delayMs": 0}, "afterStop": "open-take", "countdownS": 0, "handOverTo": null, "plannedLengthS": null}', NULL, '2026-11-27 14:24:07.384+00', '2026-11-27 14:24:07.404+00');
INSERT INTO public.lesson VALUES ('-0NS7taG4I9G3kuQa_wW9Q', 'Recorded by the previous release', 'record', '{"keys": {"mark": "m", "mute": "v", "stop": "s", "pause": "p", "record": "r"}, "names": {"pattern": "{lesson}, {take}"}, "sound": {"codec": "opus", "appKbps": 96, "voiceKbps": 64, "sampleRate": null}, "voice": {"talk": "open", "gainDb": 0, "source": {"id": "voice", "from": "practice"}, "delayMs": 0, "treated": "afterwards", "channels": 1, "treatment": {"gateDb": null, "denoise": false, "compressor": null, "highPassHz": null}}, "camera": {"size": {"width": 640, "height": 360}, "place": {"key": null, "free": null, "shape": "rounded", "width": 0.2, "border": null, "corner": "bottom-right", "mirror": false}, "source": {"id": "presenter", "from": "practice"}, "frameRate": {"den": 1, "num": 30}}, "limits": {"lengthS": null}, "stores": {"final": "studio", "working": "browser"}, "formats": [], "picture": {"aim": "whole", "box": {"width": 640, "height": 360}, "fit": "within", "codec": "automatic", "level": null, "speed": {"den": 1, "num": 1}, "filter": "browser", "follow": null, "source": {"id": "test-card", "from": "practice"}, "viewer": "player", "pointer": "as-captured", "profile": "automatic", "regions": [], "hardware": "automatic", "textHint": "automatic", "frameRate": {"den": 1, "num": 10}, "quantizer": 30, "whenBehind": "frames", "bitrateKbps": null, "rateControl": "average", "keyframeEvery": {"unit": "seconds", "value": 2}}, "purpose": null, "version": 2, "appSound": {"gainDb": 0, "source": {"id": "beep", "from": "practice"}, "delayMs": 0}, "afterStop": "open-take", "countdownS": 0, "handOverTo": null, "plannedLengthS": null}', NULL, '2026-11-27 14:23:56.389+00', '2026-11-27 14:24:03.904+00');
INSERT INTO public.mikro_orm_migrations VALUES (1, '0001-first', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (2, '0002-cut-off', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (3, '0003-cut', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (4, '0004-parcels', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (5, '0005-named-rigs', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (6, '0006-treatment', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.mikro_orm_migrations VALUES (7, '0007-stores-and-schedule', '2026-11-27 14:22:01.064287+00');
INSERT INTO public.segment VALUES ('dS5aUdD32-s8O3YhiQrwJg', 1, 0, 0, '{"type": "events"}', 0, 0, 'declared', 'confirmed', 0, 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855', 0);
INSERT INTO public.segment VALUES ('N7Xa2TIlPtYONZE1kd9vXA', 2, 0, 0, '{"type": "video", "codec": "avc1.640016", "width": 640, "height": 360, "textHint": true, "bitrateKbps": 800, "sourceWidth": 1920, "sourceHeight": 1080}', 0, 0, 'declared', 'confirmed', 82172, 'c56df781a0f31ffff12486d4f77356a015fd2d53ab51fed346dce0c1d37be985', 366);
INSERT INTO public.segment VALUES ('H7aiLw1RsLdLscS9QChTlA', 3, 0, 0, '{"type": "video", "codec": "avc1.64001e", "width": 640, "height": 360, "textHint": false, "bitrateKbps": 650, "sourceWidth": 640, "sourceHeight": 360}', 0, 0, 'declared', 'confirmed', 23175, '7f3963db8a7c989cb409bc411eceb50c3672c04d13c379eeaa5974ea62af446d', 1004);
INSERT INTO public.segment VALUES ('ry8aHmykeN2D525Ve1lWiA', 4, 0, 0, '{"type": "audio", "codec": "opus", "channels": 1, "sampleRate": 48000, "bitrateKbps": 96}', 6500, 1482810, 'declared', 'confirmed', 14221, 'd38d619488edd3bb524bbdd983cca15be68793d20c18f5057817c4284b9116cf', 1601);
INSERT INTO public.segment VALUES ('JVx51jpJxS2vYCehH_VNxg', 5, 0, 0, '{"type": "audio", "codec": "opus", "channels": 1, "sampleRate": 48000, "bitrateKbps": 64}', 6500, 1482810, 'declared', 'confirmed', 22384, 'ba7bf1ec2d807df5a76c194b9799843e6365adc33088dd5b9d569d6dd5cda754', 1753);
INSERT INTO public.take VALUES ('kwKq337agxiSv60p_RISjw', '-0NS7taG4I9G3kuQa_wW9Q', 1, NULL, 'ready', '{"keys": {"mark": "m", "mute": "v", "stop": "s", "pause": "p", "record": "r"}, "names": {"pattern": "{lesson}, {take}"}, "sound": {"codec": "opus", "appKbps": 96, "voiceKbps": 64, "sampleRate": null}, "voice": {"talk": "open", "gainDb": 0, "source": {"id": "voice", "from": "practice"}, "delayMs": 0, "treated": "afterwards", "channels": 1, "treatment": {"gateDb": null, "denoise": false, "compressor": null, "highPassHz": null}}, "camera": {"size": {"width": 640, "height": 360}, "place": {"key": null, "free": null, "shape": "rounded", "width": 0.2, "border": null, "corner": "bottom-right", "mirror": false}, "source": {"id": "presenter", "from": "practice"}, "frameRate": {"den": 1, "num": 30}}, "limits": {"lengthS": null}, "stores": {"final": "studio", "working": "browser"}, "formats": [], "picture": {"aim": "whole", "box": {"width": 640, "height": 360}, "fit": "within", "codec": "automatic", "level": null, "speed": {"den": 1, "num": 1}, "filter": "browser", "follow": null, "source": {"id": "test-card", "from": "practice"}, "viewer": "player", "pointer": "as-captured", "profile": "automatic", "regions": [], "hardware": "automatic", "textHint": "automatic", "frameRate": {"den": 1, "num": 10}, "quantizer": 30, "whenBehind": "frames", "bitrateKbps": null, "rateControl": "average", "keyframeEvery": {"unit": "seconds", "value": 2}}, "purpose": null, "version": 2, "appSound": {"gainDb": 0, "source": {"id": "beep", "from": "practice"}, "delayMs": 0}, "afterStop": "open-take", "countdownS": 0, "handOverTo": null, "plannedLengthS": null}', '2026-11-27 14:23:59.945+00', 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) HeadlessChrome/156.0.0.0 Safari/537.36', '{"cores": 2, "memoryGb": 16}', 2578735, '[]', '{"camera": {"arrived": 78, "dropped": 0, "encoded": 78, "skipped": 0, "askedFps": 30, "repeated": 0, "lostBefore": 1, "encodeP50Ms": 2.404999999969732, "encodeP95Ms": 10.825000000011642}, "screen": {"arrived": 79, "dropped": 0, "encoded": 27, "skipped": 52, "askedFps": 10, "repeated": 0, "lostBefore": 0, "encodeP50Ms": 9.635000000009313, "encodeP95Ms": 27.650000000023283}}', '{"gaps": [], "bytes": 141952, "heard": [], "madeAt": "2026-11-27T14:24:05.559Z", "picture": {"width": 640, "frames": 27, "height": 360, "medianFps": 10, "longestGapMs": 134}, "durationUs": 2578735, "plainVideo": {"bytes": 156255, "durationUs": 2578735, "pictureCopied": false}}', NULL, '2026-11-27 14:24:00.553+00', '2026-11-27 14:24:03.903+00', false, NULL);
INSERT INTO public.track VALUES (1, 'kwKq337agxiSv60p_RISjw', 'events');
INSERT INTO public.track VALUES (2, 'kwKq337agxiSv60p_RISjw', 'screen');
INSERT INTO public.track VALUES (3, 'kwKq337agxiSv60p_RISjw', 'camera');
INSERT INTO public.track VALUES (4, 'kwKq337agxiSv60p_RISjw', 'app-sound');
INSERT INTO public.track VALUES (5, 'kwKq337agxiSv60p_RISjw', 'voice');
SELECT pg_catalog.setval('public.copy_id_seq', 1, false);
SELECT pg_catalog.setval('public.job_id_seq', 1, true);
SELECT pg_catalog.setval('public.mikro_orm_migrations_id_seq', 7, true);
SELECT pg_catalog.setval('public.take_event_id_seq', 1, false);
SELECT pg_catalog.setval('public.track_id_seq', 5, true);
ALTER TABLE ONLY public.copy
    ADD CONSTRAINT copy_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.cut
    ADD CONSTRAINT cut_pkey PRIMARY KEY (lesson_id);
ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_subject_kind_unique UNIQUE (subject, kind);
ALTER TABLE ONLY public.lesson
    ADD CONSTRAINT lesson_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.mikro_orm_migrations
    ADD CONSTRAINT mikro_orm_migrations_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.named_rig
    ADD CONSTRAINT named_rig_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.parcel
    ADD CONSTRAINT parcel_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.scheduled
    ADD CONSTRAINT scheduled_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.segment
    ADD CONSTRAINT segment_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.segment
    ADD CONSTRAINT segment_track_id_index_unique UNIQUE (track_id, index);
ALTER TABLE ONLY public.share
    ADD CONSTRAINT share_pkey PRIMARY KEY (token);
ALTER TABLE ONLY public.store
    ADD CONSTRAINT store_folder_unique UNIQUE (folder);
ALTER TABLE ONLY public.store
    ADD CONSTRAINT store_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.take_event
    ADD CONSTRAINT take_event_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.take_event
    ADD CONSTRAINT take_event_take_id_seq_unique UNIQUE (take_id, seq);
ALTER TABLE ONLY public.take
    ADD CONSTRAINT take_lesson_id_number_unique UNIQUE (lesson_id, number);
ALTER TABLE ONLY public.take
    ADD CONSTRAINT take_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.track
    ADD CONSTRAINT track_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.track
    ADD CONSTRAINT track_take_id_kind_unique UNIQUE (take_id, kind);
CREATE INDEX copy_take_id_index ON public.copy USING btree (take_id);
CREATE INDEX parcel_lesson_id_index ON public.parcel USING btree (lesson_id);
CREATE INDEX scheduled_lesson_id_index ON public.scheduled USING btree (lesson_id);
CREATE INDEX take_lesson_id_index ON public.take USING btree (lesson_id);
ALTER TABLE ONLY public.copy
    ADD CONSTRAINT copy_store_id_foreign FOREIGN KEY (store_id) REFERENCES public.store(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.copy
    ADD CONSTRAINT copy_take_id_foreign FOREIGN KEY (take_id) REFERENCES public.take(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.cut
    ADD CONSTRAINT cut_lesson_id_foreign FOREIGN KEY (lesson_id) REFERENCES public.lesson(id) ON UPDATE CASCADE ON DELETE CASCADE;
ALTER TABLE ONLY public.parcel
    ADD CONSTRAINT parcel_lesson_id_foreign FOREIGN KEY (lesson_id) REFERENCES public.lesson(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.scheduled
    ADD CONSTRAINT scheduled_lesson_id_foreign FOREIGN KEY (lesson_id) REFERENCES public.lesson(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.segment
    ADD CONSTRAINT segment_track_id_foreign FOREIGN KEY (track_id) REFERENCES public.track(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.share
    ADD CONSTRAINT share_parcel_id_foreign FOREIGN KEY (parcel_id) REFERENCES public.parcel(id) ON UPDATE CASCADE ON DELETE SET NULL;
ALTER TABLE ONLY public.share
    ADD CONSTRAINT share_take_id_foreign FOREIGN KEY (take_id) REFERENCES public.take(id) ON UPDATE CASCADE ON DELETE SET NULL;
ALTER TABLE ONLY public.take_event
    ADD CONSTRAINT take_event_take_id_foreign FOREIGN KEY (take_id) REFERENCES public.take(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.take
    ADD CONSTRAINT take_lesson_id_foreign FOREIGN KEY (lesson_id) REFERENCES public.lesson(id) ON UPDATE CASCADE;
ALTER TABLE ONLY public.track
    ADD CONSTRAINT track_take_id_foreign FOREIGN KEY (take_id) REFERENCES public.take(id) ON UPDATE CASCADE;
