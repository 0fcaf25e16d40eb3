import { isTreated, treatmentText } from '../audio/treatment';
import { lengthText } from '../base/length';
import { rateText } from '../base/rational';
import { sameValue } from '../base/same-value';
import { sizeText } from '../base/sizes';
import { CODEC_NAMES } from '../codec/codecs';
import { CONTAINERS } from '../codec/formats';
import { DESTINATIONS } from '../destination/destination';
import { VIEWERS } from '../image/text-height';
import type { CameraPlace, DeviceSource, KeyframeEvery, PictureSource, Rig, Speed } from './rig';
import { valueAt } from './rig-values';

/** One thing that a rig decides, as it is named, compared, explained and restored. */
export type RigChoice = {
  /** Path in the document: "picture.frameRate". */
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
const shareText = (share: number): string => `${(share * 100).toFixed(1)} %`;
const placeWords = ({ corner, width, shape, mirror, free, border, key }: CameraPlace): string =>
  [
    free ? `at ${Math.round(free.x * 100)} and ${Math.round(free.y * 100)} %` : corner.replace('-', ' '),
    `${Math.round(width * 100)} % wide`,
    shape,
    mirror && 'mirrored',
    border && `border ${(border.width * 100).toFixed(1)} % ${border.colour}`,
    key &&
      `chroma key ${key.colour} (tolerance ${shareText(key.tolerance)}, softness ${shareText(key.softness)}, spill ${shareText(key.spill)})`,
  ]
    .filter(Boolean)
    .join(', ');

/** "real time", "10× time-lapse". */
export function speedText({ num, den }: Speed): string {
  if (num === den) return 'real time';
  const film = num / den;
  return film < 1
    ? `${Number((1 / film).toPrecision(3))}× time-lapse`
    : `${Number(film.toPrecision(3))}× slow motion`;
}

export const keyframeText = ({ unit, value }: KeyframeEvery): string =>
  unit === 'seconds' ? `${value} s` : `${value} frames`;

/** What each fit does, in words. */
export const FITS = {
  within: 'original aspect ratio',
  letterbox: 'letterbox',
  fill: 'fill, edges cropped',
  stretch: 'stretched',
} as const;

const HINTS = { automatic: 'automatic (when fast enough)', on: 'always', off: 'never' };
const HARDWARE = {
  automatic: 'automatic',
  'prefer-hardware': 'hardware first',
  'prefer-software': 'software first',
};
const CONTROLS = { average: 'average bitrate', constant: 'constant bitrate', quantizer: 'constant quality' };

/** What comes after a stop, in words. */
export const AFTER_STOP = {
  'open-take': 'open the take',
  'plain-video': 'download the plain video',
  'hand-over': 'hand over',
  'next-take': 'record the next take',
} as const;

/** Every choice that is open in this version, in the order of the work. */
const CHOICES = [
  {
    path: 'picture.source',
    name: 'Source',
    does: 'what is recorded',
    words: ({ picture }) => sourceWords(picture.source),
  },
  {
    path: 'picture.aim',
    name: 'Capture area',
    does: 'which part of the source is recorded; saves encoding, not capturing',
    words: ({ picture }) =>
      picture.aim === 'whole'
        ? 'full frame'
        : `${sizeText(picture.aim)} from ${picture.aim.x}, ${picture.aim.y}`,
  },
  {
    path: 'picture.follow',
    name: 'While recording',
    does: 'whether the region moves with the work',
    words: ({ picture }) =>
      picture.follow
        ? `up to ${picture.follow.speed} px/s, dead zone ${Math.round(picture.follow.dead * 100)} %`
        : 'fixed',
  },
  {
    path: 'picture.regions',
    name: 'Saved regions',
    does: 'regions to choose from in this lesson',
    words: ({ picture }) =>
      picture.regions
        .map(({ name, region }) => `${name} (${sizeText(region)} at ${region.x}, ${region.y})`)
        .join(', ') || 'none',
  },
  {
    path: 'picture.filter',
    name: 'Downscaling filter',
    does: 'text sharpness after scaling, time per frame',
    words: ({ picture }) => picture.filter,
  },
  {
    path: 'picture.pointer',
    name: 'Pointer',
    does: 'whether it is in the picture of a real capture',
    words: ({ picture }) => picture.pointer.replace('-', ' '),
  },
  {
    path: 'picture.preview',
    name: 'Preview while recording',
    does: 'whether this page shows the picture; off saves processor time',
    words: ({ picture }) => picture.preview,
  },
  {
    path: 'picture.viewer',
    name: 'Viewing size',
    does: 'how large text must be',
    words: ({ picture }) => VIEWERS.find(({ id }) => id === picture.viewer)?.name.toLowerCase() ?? '',
  },
  {
    path: 'picture.fit',
    name: 'Fit',
    does: 'how the source is fitted to another aspect ratio',
    words: ({ picture }) => FITS[picture.fit],
  },
  {
    path: 'picture.box',
    name: 'Picture size',
    does: 'text sharpness, encoder load',
    words: ({ picture }) => (picture.box ? `fits ${sizeText(picture.box)}` : 'as captured, one to one'),
  },
  {
    path: 'picture.frameRate',
    name: 'Frame rate',
    does: 'how smooth motion looks, encoder load',
    words: ({ picture }) => `${rateText(picture.frameRate)} fps`,
  },
  {
    path: 'picture.speed',
    name: 'Speed',
    does: 'time-lapse or slow motion; sound only in real time',
    words: ({ picture }) => speedText(picture.speed),
  },
  {
    path: 'picture.codec',
    name: 'Codec',
    does: 'size, load, compatibility',
    words: ({ picture }) => (picture.codec === 'automatic' ? 'automatic' : CODEC_NAMES[picture.codec]),
  },
  {
    path: 'picture.profile',
    name: 'H.264 profile',
    does: 'compression against old players',
    words: ({ picture }) => picture.profile.replace('-', ' '),
  },
  {
    path: 'picture.level',
    name: 'Level',
    does: 'what a player must support',
    words: ({ picture }) => picture.level ?? 'lowest that fits',
  },
  {
    path: 'picture.rateControl',
    name: 'Rate control',
    does: 'constant size or constant quality',
    words: ({ picture }) => CONTROLS[picture.rateControl],
  },
  {
    path: 'picture.bitrateKbps',
    name: 'Bitrate',
    does: 'size, clarity of busy moments',
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
    name: 'Text hint',
    does: 'about half the size for screens, more time per frame',
    words: ({ picture }) => HINTS[picture.textHint],
  },
  {
    path: 'picture.keyframeEvery',
    name: 'Keyframe interval',
    does: 'shorter: faster seeking and cutting, larger files',
    words: ({ picture }) => keyframeText(picture.keyframeEvery),
  },
  {
    path: 'picture.whenBehind',
    name: 'When the encoder is too slow',
    does: 'drop frames or lower quality',
    words: ({ picture }) => (picture.whenBehind === 'frames' ? 'drop frames' : 'lower quality'),
  },
  {
    path: 'picture.hardware',
    name: 'Encoder',
    does: 'hardware saves processor time, software often compresses better',
    words: ({ picture }) => HARDWARE[picture.hardware],
  },
  {
    path: 'camera',
    name: 'Camera',
    does: 'camera overlay; needs a second encoder',
    words: ({ camera }) =>
      camera
        ? `${deviceWords(camera.source)}, ${sizeText(camera.size)}, ${rateText(camera.frameRate)} fps, ${placeWords(camera.place)}`
        : 'none',
  },
  {
    path: 'voice',
    name: 'Voice',
    does: 'voice track',
    words: ({ voice }) =>
      voice
        ? [
            deviceWords(voice.source),
            voice.talk === 'push' && 'push to talk',
            voice.channels === 2 && 'stereo',
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
    does: 'sound of programs',
    words: ({ appSound }) =>
      appSound
        ? `${appSound.source.from === 'screen' ? 'shared with the picture' : deviceWords(appSound.source)}, ${appSound.gainDb} dB${appSound.delayMs ? `, ${appSound.delayMs} ms later` : ''}`
        : 'none',
  },
  {
    path: 'sound',
    name: 'Audio format',
    does: 'size, editing quality',
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
    does: 'for estimates only',
    words: ({ plannedLengthS }) => (plannedLengthS ? lengthText(plannedLengthS) : 'not set'),
  },
  {
    path: 'limits',
    name: 'Stop automatically after',
    does: 'ends the take at this length',
    words: ({ limits: { lengthS } }) => (lengthS === null ? 'off' : lengthText(lengthS)),
  },
  {
    path: 'countdownS',
    name: 'Countdown',
    does: 'delay before recording',
    words: ({ countdownS }) => (countdownS ? `${countdownS} s` : 'off'),
  },
  {
    path: 'names',
    name: 'File names',
    does: 'names of downloaded files',
    words: ({ names }) => names.pattern,
  },
  {
    path: 'formats',
    name: 'Additional files',
    does: 'made from every take',
    words: ({ formats }) => formats.map((format) => CONTAINERS[format].name).join(', ') || 'none',
  },
  {
    path: 'stores',
    name: 'Copies of finished files',
    does: 'a second place for what is finished',
    words: ({ stores }) =>
      stores.final === 'studio' ? 'on the studio’s disk' : `copied to store ${stores.final}`,
  },
  {
    path: 'afterStop',
    name: 'After stopping',
    does: 'what happens next',
    words: ({ afterStop }) => AFTER_STOP[afterStop],
  },
  {
    path: 'handOverTo',
    name: 'Hand over to',
    does: 'destination after stopping',
    words: ({ handOverTo }) => DESTINATIONS.find(({ id }) => id === handOverTo)?.name ?? handOverTo ?? 'none',
  },
] as const satisfies readonly RigChoice[];
export type RigPath = (typeof CHOICES)[number]['path'];
export const RIG_CHOICES: readonly (RigChoice & { path: RigPath })[] = CHOICES;

/** What parts of a choice are called where they are set one by one. They are compared, explained and restored as a whole. */
export const PART_NAMES = {
  'picture.follow.speed': 'Maximum speed',
  'picture.follow.dead': 'Dead zone',
  'camera.size': 'Size',
  'camera.frameRate': 'Frame rate',
  'camera.place.width': 'Width',
  'camera.place.mirror': 'In the file',
  'voice.talk': 'Microphone',
  'voice.treated': 'Apply',
  'voice.channels': 'Channels',
  'voice.gainDb': 'Voice gain',
  'voice.delayMs': 'Voice delay',
  'appSound.gainDb': 'App sound gain',
  'appSound.delayMs': 'App sound delay',
  'sound.sampleRate': 'Sample rate',
  'sound.voiceKbps': 'Bitrate',
  'sound.appKbps': 'Bitrate',
} as const;
/** A path whose value has a field of its own. */
export type FieldPath = RigPath | keyof typeof PART_NAMES;

/** What the field of a path is called, and what choosing there does; a part of a choice does what the choice does. */
export function fieldNames(path: FieldPath): { name: string; does?: string } {
  const choice = RIG_CHOICES.find((each) => each.path === path);
  return choice ?? { name: PART_NAMES[path as keyof typeof PART_NAMES] };
}

/** The choices in which two rigs differ. */
export const differences = (a: Rig, b: Rig): RigChoice[] =>
  RIG_CHOICES.filter(({ path }) => !sameValue(valueAt(a, path), valueAt(b, path)));
