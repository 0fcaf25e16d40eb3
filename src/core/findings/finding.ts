import type { Heard } from '../audio/sound-heard';
import type { Room } from '../base/free-space';
import type { Problem } from '../base/problem';
import type { Rect, Size } from '../base/sizes';
import type { BitrateMarks } from '../encoding/bitrate-marks';
import type { EncoderSpeed } from '../encoding/encoder-speed';
import type { EncoderKnowledge } from '../encoding/encoding-plan';
import type { Region } from '../image/region';
import type { Activity } from '../layout/activity';
import type { SoundTest } from '../recording/sound-test';
import type { TrackKind } from '../recording/take';
import type { RehearsalView } from '../rehearsal/rehearsal';
import type { StoreView } from '../rig/final-store';
import type { Rig, Surface } from '../rig/rig';

/** `note`: good to know, and nothing that keeps a rig from being ready. `stop`: recording cannot begin. */
export type Weight = 'note' | 'warn' | 'stop';

/** One thing that is known about a rig on this machine before anything is recorded. */
export type Finding = {
  /** Kebab-case, of the file that finds it. */
  id: string;
  weight: Weight;
  /** What is wrong, in a teacher's words, with the exact figure. */
  sentence: string;
  /** What to do about it. */
  advice?: string;
  /** Carries `advice` out. */
  fix?: (rig: Rig) => Rig;
  /** The choice it is about. */
  about: TrackKind | 'browser' | 'storage';
};

/** What is known of a source besides the rig. */
export type SourceState = {
  state: 'absent' | 'opening' | 'open' | 'failed';
  problem?: Problem;
  remark?: string;
  /** Size of what arrives, when anything did. */
  size?: Size;
  /** Where a region that follows the pointer is now. */
  region?: Rect;
  /** Pictures per second that really come, measured over two seconds, when so large ones were asked; of a camera. */
  measuredFps?: { fps: number; asked: Size };
  /** Pictures per second that really come, over the last two seconds; of a camera. */
  givenFps?: number;
  /** The most that a real camera says it can give. */
  most?: Size & { fps: number };
  /** What it costs here to take the wall of a picture away, ms; while a camera is seen without it. */
  keyMs?: number;
  /** What was heard of it lately; of a sound. */
  heard?: Heard;
  /** The loudest of the last seconds, dBFS; of a sound. */
  loudestDb?: number;
  /** What the last test of this microphone found; of the voice. */
  test?: SoundTest;
  /** What the device says of its samples; of a sound. */
  gives?: { sampleRate: number | null; bits: number | null; channels: number | null };
  /** What the browser's picker gave; of the screen. */
  shared?: Surface;
  /** It is a tab of the studio, which tells what pointer and keys do in it; of the screen. */
  tellsPointer?: boolean;
  /** What the browser calls it. */
  label?: string;
  /** Opened in the place of the device that was preferred. */
  insteadOf?: string;
};

export type Facts = {
  browser: Problem | null;
  sources: Partial<Record<TrackKind, SourceState>>;
  /** How long each store takes this rig at its highest rate; null while it is not known. */
  room: { browser: Room | null; server: Room | null };
  /** The store that the rig names for finished files; null while it is not known, or where it names none. */
  store: StoreView | 'gone' | null;
  /** What was measured of this browser's encoders at the picture's size. */
  speeds: readonly EncoderSpeed[];
  /** What takes have shown of the text hint at that size, ms/frame, by codec. */
  hintMs: EncoderKnowledge['hintMs'];
  /** The newest rehearsal of the lesson with such a rig, and how long ago it was; null where there is none. */
  rehearsal: { of: RehearsalView; ago: string } | null;
  /** What was measured on the picture that is being captured now. */
  marks: BitrateMarks | null;
  /** Height of the text that are shown now, in the picture; null while it was not measured. */
  textPx: number | null;
  /** Where the picture has changed lately; null while nobody looks. */
  activity: Activity | null;
  /** What a captured practice window misses, and its place on its display. */
  outside: { of: string; names: string[]; instead: { display: string; region: Region } } | null;
  /** Answers that the browser is going to give without asking. */
  permissions: { camera: boolean | null; microphone: boolean | null };
};

/** Nothing is known yet. */
export const NO_FACTS: Facts = {
  browser: null,
  sources: {},
  room: { browser: null, server: null },
  store: null,
  speeds: [],
  hintMs: {},
  rehearsal: null,
  marks: null,
  textPx: null,
  activity: null,
  outside: null,
  permissions: { camera: null, microphone: null },
};

/** Looks for one kind of thing. */
export type Finder = (rig: Rig, facts: Facts) => Finding | Finding[] | null;

/** The picture that a rig makes of the source as it is now; undefined while there is none. */
export const sourceSize = (facts: Facts): Size | undefined => facts.sources.screen?.size;
