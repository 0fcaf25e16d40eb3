import { CODEC_NAMES } from './codecs';
import { CONTAINERS } from './formats';
import { VIEWERS } from './letters';
import { rateText } from './rational';
import type { CameraPlace, DeviceSource, KeyframeEvery, PictureSource, Rig, Speed } from './rig';
import { roomText } from './room';
import { sizeText } from './sizes';
import { isTreated, treatmentText } from './treatment/treatment';

/** One thing that a rig decides, as it is named, compared, explained and restored. */
export type RigChoice = {
  /** Where it stands in the document: "picture.frameRate". */
  path: string;
  name: string;
  /** What choosing it does, in a few words. */
  does: string;
  /** A rig's value in words. */
  words: (rig: Rig) => string;
};

const SURFACES = { display: 'a whole display', window: 'one window', tab: 'a browser tab' };

const sourceWords = (source: PictureSource): string =>
  source.from === 'screen'
    ? SURFACES[source.meant]
    : source.from === 'practice'
      ? `practice: ${source.id}`
      : 'no picture';
const deviceWords = (source: DeviceSource): string =>
  source.from === 'practice' ? `practice: ${source.id}` : source.label || 'the browser’s own choice';
const placeWords = ({ corner, width, shape, mirror, free }: CameraPlace): string =>
  [
    free ? `at ${Math.round(free.x * 100)} and ${Math.round(free.y * 100)} %` : corner.replace('-', ' '),
    `${Math.round(width * 100)} % wide`,
    shape,
    mirror && 'mirrored',
  ]
    .filter(Boolean)
    .join(', ');

/** "1 s of work becomes 0.1 s of film". */
export function speedText({ num, den }: Speed): string {
  if (num === den) return 'as it happens';
  const film = num / den;
  return `1 s of work becomes ${film >= 1 ? film.toFixed(1).replace('.0', '') : Number(film.toPrecision(2))} s of film`;
}

export const keyframeText = ({ unit, value }: KeyframeEvery): string =>
  unit === 'seconds' ? `${value} s` : `${value} frames`;

/** What each fit does, in words. */
export const FITS = {
  within: 'its own shape, no bars',
  letterbox: 'whole, with bars',
  fill: 'filled, edges cut off',
  stretch: 'stretched',
} as const;

const HINTS = { automatic: 'when there is time for it', on: 'always', off: 'never' };
const HARDWARE = {
  automatic: 'automatic',
  'prefer-hardware': 'hardware first',
  'prefer-software': 'software first',
};
const CONTROLS = { average: 'average bitrate', constant: 'constant bitrate', quantizer: 'constant quality' };

/** What comes after a stop, in words. */
export const AFTER_STOP = {
  'open-take': 'the take',
  'plain-video': 'the plain video, as soon as it is made',
  'hand-over': 'handing over',
  'next-take': 'the next take',
} as const;

/** Every choice that is open in this version, in the order of the work. */
export const RIG_CHOICES: readonly RigChoice[] = [
  {
    path: 'picture.source',
    name: 'What is shown',
    does: 'what is in the picture at all',
    words: ({ picture }) => sourceWords(picture.source),
  },
  {
    path: 'picture.aim',
    name: 'Region',
    does: 'what of it is in the picture; less to encode, not less to capture',
    words: ({ picture }) =>
      picture.aim === 'whole'
        ? 'all of it'
        : `${sizeText(picture.aim)} from ${picture.aim.x}, ${picture.aim.y}`,
  },
  {
    path: 'picture.follow',
    name: 'Region follows the pointer',
    does: 'whether the region moves with the work',
    words: ({ picture }) => (picture.follow ? `up to ${picture.follow.speed} pixels a second` : 'it stands'),
  },
  {
    path: 'picture.pointer',
    name: 'Pointer',
    does: 'whether it is in the picture of a real capture',
    words: ({ picture }) => picture.pointer.replace('-', ' '),
  },
  {
    path: 'picture.viewer',
    name: 'Where it is watched',
    does: 'how tall letters must be',
    words: ({ picture }) => VIEWERS.find(({ id }) => id === picture.viewer)?.name.toLowerCase() ?? '',
  },
  {
    path: 'picture.fit',
    name: 'Fit',
    does: 'what happens where shapes differ',
    words: ({ picture }) => FITS[picture.fit],
  },
  {
    path: 'picture.box',
    name: 'Picture size',
    does: 'sharpness of small letters, load of the encoder',
    words: ({ picture }) => (picture.box ? `fits ${sizeText(picture.box)}` : 'as captured, one to one'),
  },
  {
    path: 'picture.frameRate',
    name: 'Frames a second',
    does: 'how smooth motion is, load of the encoder',
    words: ({ picture }) => rateText(picture.frameRate),
  },
  {
    path: 'picture.speed',
    name: 'Time',
    does: 'how long the film is beside the work; sound stays only at real time',
    words: ({ picture }) => speedText(picture.speed),
  },
  {
    path: 'picture.codec',
    name: 'Codec',
    does: 'size, load, and what opens the file',
    words: ({ picture }) => (picture.codec === 'automatic' ? 'automatic' : CODEC_NAMES[picture.codec]),
  },
  {
    path: 'picture.profile',
    name: 'Profile of H.264',
    does: 'which tools the encoder may use, and which old players follow',
    words: ({ picture }) => picture.profile.replace('-', ' '),
  },
  {
    path: 'picture.level',
    name: 'Level',
    does: 'what a player must be able to hold',
    words: ({ picture }) => picture.level ?? 'the lowest that holds it',
  },
  {
    path: 'picture.rateControl',
    name: 'Rate control',
    does: 'whether size or quality is held steady',
    words: ({ picture }) => CONTROLS[picture.rateControl],
  },
  {
    path: 'picture.bitrateKbps',
    name: 'Bitrate',
    does: 'size, and how clear busy stretches stay',
    words: ({ picture }) => (picture.bitrateKbps ? `${picture.bitrateKbps} kb/s` : 'automatic'),
  },
  {
    path: 'picture.quantizer',
    name: 'Quantizer',
    does: 'quality at constant quality: lower is clearer and larger',
    words: ({ picture }) => String(picture.quantizer),
  },
  {
    path: 'picture.textHint',
    name: 'Encoder is told that it is text',
    does: 'about half the size of a still screen, more time a frame',
    words: ({ picture }) => HINTS[picture.textHint],
  },
  {
    path: 'picture.keyframeEvery',
    name: 'Keyframe every',
    does: 'seeking and cutting are finer, the file larger, the closer they stand',
    words: ({ picture }) => keyframeText(picture.keyframeEvery),
  },
  {
    path: 'picture.whenBehind',
    name: 'If the machine can’t keep up',
    does: 'what is lost then',
    words: ({ picture }) => (picture.whenBehind === 'frames' ? 'lose frames' : 'lose detail'),
  },
  {
    path: 'picture.hardware',
    name: 'Encoder',
    does: 'hardware spares the processor, software is often better for its size',
    words: ({ picture }) => HARDWARE[picture.hardware],
  },
  {
    path: 'camera',
    name: 'Camera',
    does: 'a face beside the screen, a second encoder at work',
    words: ({ camera }) =>
      camera
        ? `${deviceWords(camera.source)}, ${sizeText(camera.size)}, ${rateText(camera.frameRate)} a second, ${placeWords(camera.place)}`
        : 'none',
  },
  {
    path: 'voice',
    name: 'Voice',
    does: 'whether there is speech',
    words: ({ voice }) =>
      voice
        ? [
            deviceWords(voice.source),
            voice.talk === 'push' && 'while its key is held',
            voice.channels === 2 && 'two channels',
            voice.gainDb !== 0 && `${voice.gainDb} dB`,
            voice.delayMs !== 0 && `${voice.delayMs} ms later`,
            treatmentText(voice.treatment),
            isTreated(voice.treatment) && voice.treated.replace('-', ' '),
          ]
            .filter(Boolean)
            .join(', ')
        : 'none',
  },
  {
    path: 'appSound',
    name: 'App sound',
    does: 'whether programs are heard',
    words: ({ appSound }) =>
      appSound
        ? `${appSound.source.from === 'screen' ? 'shared with the picture' : deviceWords(appSound.source)}, ${appSound.gainDb} dB${appSound.delayMs ? `, ${appSound.delayMs} ms later` : ''}`
        : 'none',
  },
  {
    path: 'sound',
    name: 'Sound is kept as',
    does: 'size, and what an editor gets',
    words: ({ sound }) =>
      [
        sound.codec === 'opus'
          ? `Opus, ${sound.voiceKbps} and ${sound.appKbps} kb/s`
          : `PCM, ${sound.codec === 'pcm-24' ? 24 : 16} bit`,
        sound.sampleRate && `${sound.sampleRate / 1000} kHz`,
      ]
        .filter(Boolean)
        .join(', '),
  },
  {
    path: 'plannedLengthS',
    name: 'Planned length',
    does: 'what size and room are reckoned for; it ends nothing',
    words: ({ plannedLengthS }) =>
      plannedLengthS ? `${Number((plannedLengthS / 60).toFixed(1))} min` : 'not said',
  },
  {
    path: 'limits',
    name: 'Time limit',
    does: 'ends the take by itself, and says so',
    words: ({ limits: { lengthS } }) => (lengthS === null ? 'off' : roomText({ seconds: lengthS })),
  },
  {
    path: 'countdownS',
    name: 'Countdown',
    does: 'time to get ready',
    words: ({ countdownS }) => (countdownS ? `${countdownS} s` : 'off'),
  },
  {
    path: 'names',
    name: 'File names',
    does: 'what files that are given out are called',
    words: ({ names }) => names.pattern,
  },
  {
    path: 'formats',
    name: 'Files beside the plain video',
    does: 'what is made of every take without being asked',
    words: ({ formats }) => formats.map((format) => CONTAINERS[format].name).join(', ') || 'none',
  },
  {
    path: 'stores',
    name: 'Finished files',
    does: 'where copies of them go',
    words: ({ stores }) => (stores.final === 'studio' ? 'on the studio’s disk' : 'copied to a store'),
  },
  {
    path: 'afterStop',
    name: 'After the stop',
    does: 'what comes then',
    words: ({ afterStop }) => AFTER_STOP[afterStop],
  },
  {
    path: 'keys',
    name: 'Keys',
    does: 'which key does what while recording',
    words: ({ keys }) =>
      Object.entries(keys)
        .map(([act, key]) => `${act} ${key.toUpperCase()}`)
        .join(', '),
  },
];

/** The value of a rig at a path. */
export const valueAt = (rig: Rig, path: string): unknown =>
  path.split('.').reduce<unknown>((value, key) => (value as Record<string, unknown>)[key], rig);

/** A rig with another value at a path; everything else is the same object as before. */
export function withValue(rig: Rig, path: string, value: unknown): Rig {
  const set = (part: unknown, [key, ...rest]: string[]): unknown =>
    key === undefined
      ? value
      : { ...(part as object), [key]: set((part as Record<string, unknown>)[key], rest) };
  return set(rig, path.split('.')) as Rig;
}

/** Whether two parts of documents say the same, whatever the order of their keys. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].every((key) => sameValue(left[key], right[key]));
}

/** The choices in which two rigs differ. */
export const differences = (a: Rig, b: Rig): RigChoice[] =>
  RIG_CHOICES.filter(({ path }) => !sameValue(valueAt(a, path), valueAt(b, path)));
