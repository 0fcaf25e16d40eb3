import type { Purpose, PurposeKind, Rig } from './rig';
import { PRACTICE_RIG } from './rig';
import { RIG_CHOICES, sameValue, valueAt, withValue } from './rig-choices';

/** What a video can be for, in plain words. */
export const PURPOSES: Readonly<Record<PurposeKind, { name: string; what: string }>> = {
  answer: { name: 'A quick answer', what: 'a minute in a message: small, and done at once' },
  lesson: { name: 'A lesson with small text', what: 'forms, tables, code: every letter must be read' },
  motion: { name: 'A fast-moving demonstration', what: 'drawing, scrolling, animation: it must not stutter' },
  editor: {
    name: 'Raw material for an editor',
    what: 'cut elsewhere: short groups, sound that loses nothing',
  },
  talk: { name: 'A talk with camera', what: 'a face that explains beside the slides' },
  loop: { name: 'A silent loop', what: 'a few seconds that repeat on a page' },
  sound: { name: 'Sound only', what: 'a voice-over or an interview, no picture' },
};

/** A rig for a purpose, and why each value is what it is. */
export type Proposal = { rig: Rig; reasons: Readonly<Record<string, string>> };

type Said = [path: string, value: unknown, reason: string];

const HD = { width: 1280, height: 720 };
const fps = (num: number, den = 1) => ({ num, den });
const seconds = (value: number) => ({ unit: 'seconds', value });

/** What holds for every purpose unless it says otherwise. Sources stay as they are: a purpose knows no devices. */
const ALWAYS = (weak: boolean): Said[] => [
  [
    'picture.box',
    weak ? HD : null,
    weak
      ? '1280 × 720 is less than half the pixels of a full display: a weak machine keeps up.'
      : 'One to one is the sharpest there is: no letter is scaled.',
  ],
  [
    'picture.frameRate',
    fps(weak ? 15 : 30),
    weak ? '15 a second follow forms and documents.' : '30 a second is the common standard.',
  ],
  ['picture.speed', { num: 1, den: 1 }, 'At real time sound stays with the picture.'],
  [
    'picture.codec',
    'automatic',
    'H.264 opens everywhere; where it was measured not to keep up, the fastest takes its place.',
  ],
  ['picture.profile', 'automatic', 'High packs tighter than the others, and every player of today has it.'],
  ['picture.level', null, 'The lowest that holds the picture asks least of players.'],
  ['picture.rateControl', 'average', 'A still screen then costs little, a busy moment may cost more.'],
  ['picture.bitrateKbps', null, 'A ceiling for busy moments, from picture size and frame rate.'],
  ['picture.quantizer', 30, 'Only of use with constant quality.'],
  [
    'picture.textHint',
    'automatic',
    'It halves the size of screens, and is taken where there is time for it.',
  ],
  ['picture.keyframeEvery', seconds(2), 'Every 2 s is what uploads, seeking and cutting expect.'],
  ['picture.whenBehind', 'frames', 'Letters stay sharp; a few frames fewer are not seen on a still screen.'],
  ['picture.hardware', 'automatic', 'The browser takes what the machine has.'],
  [
    'sound',
    { codec: 'opus', sampleRate: null, voiceKbps: 64, appKbps: 96 },
    'Speech is clear at 64 kb/s; sounds of programs want a little more.',
  ],
  ['plannedLengthS', null, 'Nothing is planned: size is told for a minute.'],
  ['limits', { lengthS: null }, 'Nothing ends a take but whoever makes it.'],
  ['formats', [], 'The plain MP4 opens everywhere; other files can be made of a take at any time.'],
  ['afterStop', 'open-take', 'Look at it at once, while it can still be recorded again.'],
  ['countdownS', 3, 'Three seconds to put the hands where they belong.'],
  ['names', { pattern: '{lesson}, {take}' }, 'Says what it is and which try.'],
];

const EACH: Readonly<Record<PurposeKind, (weak: boolean) => Said[]>> = {
  answer: () => [
    ['picture.box', HD, '1280 × 720 is read in any message window, and is a small file.'],
    ['picture.frameRate', fps(15), '15 a second are enough for documents and forms.'],
    ['camera', null, 'A quick answer needs no face, and is smaller without.'],
    ['appSound', null, 'The programs need not be heard.'],
    ['plannedLengthS', 120, 'Two minutes is a long answer.'],
    ['countdownS', 0, 'It begins at the click: a quick answer is quick.'],
  ],
  lesson: (weak) => [
    ['picture.box', null, 'One to one: scaling takes more from small letters than any bitrate gives back.'],
    ['picture.frameRate', fps(15), '15 a second is the usual choice for computer lessons.'],
    [
      'picture.textHint',
      weak ? 'automatic' : 'on',
      weak ? 'Taken where there is time for it.' : 'The picture is text: the encoder is told so.',
    ],
    ['plannedLengthS', 720, 'Twelve minutes is a common length of a lesson.'],
    ...(weak ? ([['camera', null, 'A weak machine has nothing left for a camera.']] as Said[]) : []),
  ],
  motion: (weak) => [
    ['picture.box', HD, 'A good 1280 × 720 beats a starved larger picture when everything moves.'],
    [
      'picture.frameRate',
      fps(weak ? 30 : 60),
      weak ? '30 a second are smooth; 60 would be too much here.' : '60 a second for fast motion.',
    ],
    ['picture.textHint', 'off', 'The hint costs time, and what moves is not text.'],
    ['picture.whenBehind', 'detail', 'It must not stutter: rather a coarser picture than a missing one.'],
    ...(weak ? ([['camera', null, 'A weak machine has nothing left for a camera.']] as Said[]) : []),
  ],
  editor: () => [
    ['picture.box', null, 'An editor can make it smaller, never larger.'],
    ['picture.frameRate', fps(30), '30 a second fits most timelines.'],
    ['picture.codec', 'h264', 'Every editor opens H.264.'],
    ['picture.textHint', 'off', 'Without the hint the picture keeps a little more.'],
    ['picture.keyframeEvery', seconds(0.5), 'Short groups: an editor finds and cuts every place quickly.'],
    [
      'sound',
      { codec: 'pcm', sampleRate: null, voiceKbps: 64, appKbps: 96 },
      'PCM loses nothing, however often it is edited.',
    ],
  ],
  talk: (weak) => [
    ['picture.box', HD, 'Slides are large letters: 1280 × 720 shows them well.'],
    ['picture.frameRate', fps(30), '30 a second: under that lips look out of step.'],
    ['appSound', null, 'Slides make no sound.'],
    ...(weak ? ([['picture.textHint', 'off', 'Time is kept for the camera.']] as Said[]) : []),
  ],
  loop: () => [
    ['picture.box', HD, 'A loop stands small on a page.'],
    ['picture.frameRate', fps(15), '15 a second keep it small.'],
    ['camera', null, 'A loop shows one thing.'],
    ['voice', null, 'Nobody hears a loop.'],
    ['appSound', null, 'Nobody hears a loop.'],
    ['plannedLengthS', 10, 'Ten seconds are a long loop.'],
  ],
  sound: () => [
    ['picture.source', { from: 'none' }, 'Nothing is shown.'],
    ['camera', null, 'Nothing is shown.'],
    ['appSound', null, 'A voice alone.'],
    [
      'sound',
      { codec: 'pcm', sampleRate: null, voiceKbps: 64, appKbps: 96 },
      'The voice is all there is: nothing of it is lost.',
    ],
  ],
};

/** Sources that a purpose asks for and a rig lacks: practice devices, so that it can be tried at once. */
const STANDARD: readonly [
  path: 'camera' | 'voice' | 'appSound',
  kinds: readonly PurposeKind[],
  reason: string,
][] = [
  ['camera', ['talk'], 'A face is what this is about.'],
  ['voice', ['answer', 'lesson', 'motion', 'editor', 'talk', 'sound'], 'A lesson lives from the voice.'],
  ['appSound', ['motion', 'editor'], 'Programs that move are often heard too.'],
];

/** What a purpose does not decide unless it says so. */
const KEPT = [
  'picture.source',
  'picture.aim',
  'picture.follow',
  'picture.fit',
  'picture.viewer',
  'picture.pointer',
  'camera',
  'voice',
  'appSound',
  'stores',
  'keys',
];

/**
 * The rig that is proposed for a purpose.
 * @param current whose sources, keys and file stores are kept
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
  for (const path of KEPT) reasons[path] ??= 'Left as it was: a purpose knows no devices and no habits.';
  for (const [path, value, reason] of [...ALWAYS(weak), ...EACH[purpose.kind](weak)]) {
    rig = withValue(rig, path, value);
    reasons[path] = reason;
  }
  return { rig, reasons };
}

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

/** One value as it was proposed; all of them without a path. */
export function restored(rig: Rig, path?: string): Rig {
  if (!rig.purpose) return rig;
  const proposed = propose(rig.purpose, rig).rig;
  return path ? withValue(rig, path, valueAt(proposed, path)) : proposed;
}
