import { sameValue } from '../base/same-value';
import type { Purpose, PurposeKind, Rig } from './rig';
import { PRACTICE_RIG } from './rig';
import { RIG_CHOICES, type RigPath } from './rig-choices';
import { type ValueAt, valueAt, withValue } from './rig-values';

/** What a video can be for, in plain words. */
export const PURPOSES: Readonly<Record<PurposeKind, { name: string; what: string }>> = {
  answer: { name: 'A quick answer', what: 'a minute in a message: small and quick' },
  lesson: { name: 'A lesson with small text', what: 'forms, tables, code: all text must be readable' },
  motion: { name: 'A fast-moving demonstration', what: 'drawing, scrolling, animation: it must not stutter' },
  editor: {
    name: 'Raw material for an editor',
    what: 'for an external editor: short GOPs, PCM sound',
  },
  talk: { name: 'A talk with camera', what: 'a presenter beside slides' },
  loop: { name: 'A silent loop', what: 'a few seconds that repeat on a web page' },
  sound: { name: 'Sound only', what: 'a voice-over or an interview, no picture' },
};

/** A rig for a purpose, and why each value is what it is. */
export type Proposal = { rig: Rig; reasons: Readonly<Record<string, string>> };

type Said = { [P in RigPath]: [path: P, value: ValueAt<P>, reason: string] }[RigPath];

const HD = { width: 1280, height: 720 };
const fps = (num: number, den = 1) => ({ num, den });
const seconds = (value: number) => ({ unit: 'seconds' as const, value });

/** What holds for every purpose unless it says otherwise. Sources stay as they are: a purpose knows no devices. */
const ALWAYS = (weak: boolean): Said[] => [
  [
    'picture.box',
    weak ? HD : null,
    weak
      ? '1280 × 720 has less than half the pixels of a full display, which a weak machine can encode.'
      : 'One to one is sharpest: text is not scaled.',
  ],
  [
    'picture.frameRate',
    fps(weak ? 15 : 30),
    weak ? '15 fps is enough for forms and documents.' : '30 fps is the common standard.',
  ],
  ['picture.speed', { num: 1, den: 1 }, 'Sound stays in sync only in real time.'],
  ['picture.codec', 'automatic', 'H.264 plays everywhere; where it is too slow, the fastest codec is used.'],
  ['picture.profile', 'automatic', 'High compresses best, and current players support it.'],
  ['picture.level', null, 'The lowest level that fits plays on most devices.'],
  ['picture.rateControl', 'average', 'Still screens stay small; busy moments may use more.'],
  ['picture.bitrateKbps', null, 'An upper limit from picture size and frame rate.'],
  ['picture.quantizer', 30, 'Used only with constant quality.'],
  ['picture.textHint', 'automatic', 'Halves the size of screen recordings; used where it is fast enough.'],
  ['picture.keyframeEvery', seconds(2), '2 s suits uploads, seeking and cutting.'],
  [
    'picture.whenBehind',
    'frames',
    'Text stays sharp; a few dropped frames are not visible on a still screen.',
  ],
  ['picture.hardware', 'automatic', 'The browser uses what the machine has.'],
  [
    'sound',
    { codec: 'opus', sampleRate: null, voiceKbps: 64, appKbps: 96 },
    'Speech is clear at 64 kb/s; program sound needs a little more.',
  ],
  ['plannedLengthS', null, 'No length is planned: size is shown per minute.'],
  ['limits', { lengthS: null }, 'A take ends only when you stop it.'],
  ['formats', [], 'The plain MP4 plays everywhere; other files can be made at any time.'],
  ['afterStop', 'open-take', 'Watch it right away, while you can still record again.'],
  ['countdownS', 3, 'Three seconds to get ready.'],
  ['names', { pattern: '{lesson}, {take}' }, 'Names the lesson and the take.'],
];

const EACH: Readonly<Record<PurposeKind, (weak: boolean) => Said[]>> = {
  answer: () => [
    [
      'picture.box',
      null,
      'One to one: scaled text is softer and takes more bytes. For a smaller picture choose a region.',
    ],
    ['picture.frameRate', fps(15), '15 fps is enough for documents and forms.'],
    ['camera', null, 'A quick answer needs no camera and is smaller without it.'],
    ['appSound', null, 'Program sound is not needed.'],
    ['plannedLengthS', 120, 'Two minutes is long for an answer.'],
    ['countdownS', 0, 'Recording starts at once.'],
  ],
  lesson: (weak) => [
    ['picture.box', null, 'One to one: no bitrate restores small text after scaling.'],
    ['picture.frameRate', fps(15), '15 fps is usual for software lessons.'],
    [
      'picture.textHint',
      weak ? 'automatic' : 'on',
      weak ? 'Used where it is fast enough.' : 'The picture is mostly text.',
    ],
    ['plannedLengthS', 720, 'Twelve minutes is a common lesson length.'],
    ...(weak ? ([['camera', null, 'A weak machine cannot encode a camera as well.']] as Said[]) : []),
  ],
  motion: (weak) => [
    ['picture.box', HD, 'A good 1280 × 720 beats a starved larger picture in motion.'],
    [
      'picture.frameRate',
      fps(weak ? 30 : 60),
      weak ? '30 fps is smooth; 60 fps would be too much here.' : '60 fps for fast motion.',
    ],
    ['picture.textHint', 'off', 'The hint costs time and does not help motion.'],
    ['picture.whenBehind', 'detail', 'Smooth motion matters more than detail.'],
    ...(weak ? ([['camera', null, 'A weak machine cannot encode a camera as well.']] as Said[]) : []),
  ],
  editor: () => [
    ['picture.box', null, 'An editor can downscale it, but not add detail.'],
    ['picture.frameRate', fps(30), '30 fps fits most timelines.'],
    ['picture.codec', 'h264', 'Every editor opens H.264.'],
    ['picture.textHint', 'off', 'The picture keeps slightly more detail without the hint.'],
    ['picture.keyframeEvery', seconds(0.5), 'Short GOPs make editing fast.'],
    [
      'sound',
      { codec: 'pcm', sampleRate: null, voiceKbps: 64, appKbps: 96 },
      'PCM is lossless, however often it is edited.',
    ],
  ],
  talk: (weak) => [
    ['picture.box', HD, 'Slides have large text: 1280 × 720 is enough.'],
    ['picture.frameRate', fps(30), '30 fps: below that, lips look out of sync.'],
    ['appSound', null, 'Slides make no sound.'],
    ...(weak ? ([['picture.textHint', 'off', 'Leaves encoding time for the camera.']] as Said[]) : []),
  ],
  loop: () => [
    ['picture.box', HD, 'A loop is small on a page.'],
    ['picture.frameRate', fps(15), '15 fps keeps it small.'],
    ['camera', null, 'A loop shows one thing.'],
    ['voice', null, 'A loop is silent.'],
    ['appSound', null, 'A loop is silent.'],
    ['plannedLengthS', 10, 'Ten seconds is long for a loop.'],
  ],
  sound: () => [
    ['picture.source', { from: 'none' }, 'There is no picture.'],
    ['camera', null, 'There is no picture.'],
    ['appSound', null, 'Voice only.'],
    [
      'sound',
      { codec: 'pcm', sampleRate: null, voiceKbps: 64, appKbps: 96 },
      'The voice is everything here: PCM is lossless.',
    ],
  ],
};

/** Sources that a purpose asks for and a rig lacks: practice devices, so that it can be tried at once. */
const STANDARD: readonly [
  path: 'camera' | 'voice' | 'appSound',
  kinds: readonly PurposeKind[],
  reason: string,
][] = [
  ['camera', ['talk'], 'A talk shows its presenter.'],
  ['voice', ['answer', 'lesson', 'motion', 'editor', 'talk', 'sound'], 'Narration carries the lesson.'],
  ['appSound', ['motion', 'editor'], 'Animated programs often have sound.'],
];

/** What a purpose does not decide unless it says so. */
const KEPT = [
  'picture.source',
  'picture.aim',
  'picture.follow',
  'picture.fit',
  'picture.viewer',
  'picture.pointer',
  'picture.preview',
  'picture.regions',
  'picture.filter',
  'camera',
  'voice',
  'appSound',
  'stores',
  'handOverTo',
];

/**
 * The rig that is proposed for a purpose.
 * @param current whose sources and file stores are kept
 */
export function propose(purpose: Purpose, current: Rig): Proposal {
  const weak = purpose.machine === 'weak';
  let rig: Rig = { ...current, purpose };
  if (purpose.kind !== 'sound' && rig.picture.source.from === 'none')
    rig = withValue(rig, 'picture.source', PRACTICE_RIG.picture.source);
  const reasons: Record<string, string> = {};
  for (const [path, kinds, reason] of STANDARD) {
    if (!kinds.includes(purpose.kind)) continue;
    reasons[path] = reason;
    if (rig[path] === null) rig = withValue(rig, path, PRACTICE_RIG[path]);
  }
  for (const path of KEPT) reasons[path] ??= 'Not set by the purpose.';
  for (const [path, value, reason] of [...ALWAYS(weak), ...EACH[purpose.kind](weak)]) {
    // Each value belongs to its path, as `Said` has it; a loop forgets which.
    rig = withValue(rig, path, value as never);
    reasons[path] = reason;
  }
  return { rig, reasons };
}

/** What the first lesson begins with: one to one, so that small text stays clear, with practice sources. */
export const FIRST_RIG: Rig = propose({ kind: 'lesson', machine: 'strong' }, PRACTICE_RIG).rig;

/** What still stands of a rig's proposal: the reason of each value that was not changed since. */
export function standingReasons(rig: Rig): Readonly<Record<string, string>> {
  if (!rig.purpose) return {};
  const proposed = propose(rig.purpose, rig);
  return Object.fromEntries(
    RIG_CHOICES.filter(({ path }) => sameValue(valueAt(rig, path), valueAt(proposed.rig, path))).flatMap(
      ({ path }) => (proposed.reasons[path] ? [[path, proposed.reasons[path]]] : []),
    ),
  );
}

/** The choices that were changed since a rig was begun from its purpose. */
export function changedSince(rig: Rig) {
  if (!rig.purpose) return [];
  const proposed = propose(rig.purpose, rig).rig;
  return RIG_CHOICES.filter(({ path }) => !sameValue(valueAt(rig, path), valueAt(proposed, path)));
}

/** Restores one proposed value; without a path, all of them. */
export function restored(rig: Rig, path?: string): Rig {
  if (!rig.purpose) return rig;
  const proposed = propose(rig.purpose, rig).rig;
  return path ? withValue(rig, path, valueAt(proposed, path)) : proposed;
}
