import { type FrameRate, framesPerSecond, rateText } from '../base/rational';
import { even, type Size, sizeText } from '../base/sizes';
import { CODEC_NAMES, VideoCodec } from '../codec/codecs';
import { type EncoderSpeed, speedOf } from '../encoding/encoder-speed';
import type { Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { Stage } from './diagnosis';
import type { RehearsalView } from './rehearsal';

/** One change that may be made next. */
export type Candidate = {
  /** Kebab-case, of the choice that changes. */
  id: string;
  /** "Frame size 1280 × 720" */
  title: string;
  /** What it replaces: "1600 × 900". */
  instead: string | null;
  /** What it costs the viewer. */
  cost: string;
  /** The rig with this one change; null where something else than the rig must change, or it is not ours to choose. */
  rig: Rig | null;
  /** Time of a frame afterwards ÷ now. */
  factor: number;
  /** Nobody has measured the factor, it only orders the steps: no figure may be made of it. */
  isGuess?: true;
  /** How much of what the viewer sees is lost, 0…1: text weighs most, then motion, then the camera. */
  loss: number;
};

/** What a step is chosen from. */
export type Known = {
  /** The rehearsal that the step follows. */
  now: RehearsalView;
  /** Earlier ones of the lesson. */
  earlier: readonly RehearsalView[];
  speeds: readonly EncoderSpeed[];
};

/** Without the hint a frame takes this share of its time, where nothing was measured. */
const HINT_FACTOR = 0.65;
const SIDES = [0.83, 0.67, 0.5];
/** Nobody reads a program in a narrower picture. */
const NARROWEST = 640;
const RATES: readonly FrameRate[] = [60, 30, 20, 15, 10].map((num) => ({ num, den: 1 }));
/** Without the preview, where nothing was measured. */
const PREVIEW_FACTOR = 0.9;
/** A region is taken to be about half of its display until somebody has chosen one. */
const REGION_FACTOR = 0.5;

/** The changes that may help a stage, none of them judged yet. */
export function candidates(stage: Stage, known: Known): Candidate[] {
  const others = closePrograms(known.now);
  switch (stage) {
    case 'encoder':
      return [
        ...others,
        ...previewOff(known.now),
        ...textHintOff(known),
        ...otherCodecs(known),
        ...processAfterwards(known.now),
        ...smallerCamera(known.now),
        ...regionOnly(known.now),
        ...slowerRate(known.now),
        ...smallerPicture(known.now),
      ];
    case 'composition':
      return [
        ...others,
        ...previewOff(known.now),
        ...scaleInBrowser(known.now),
        ...noBars(known.now),
        ...regionOnly(known.now),
        ...slowerRate(known.now),
      ];
    case 'source':
      return [...others, ...previewOff(known.now), ...slowerRate(known.now)];
    case 'writing':
      return [...lowerBitrate(known.now), ...others];
    case 'upload':
      return lowerBitrate(known.now);
  }
}

/** What the recording itself consists of, by the names that systems give it. */
const OWN = /chrom|firefox|msedge|safari|webkit|node|postgres|next-server|ffmpeg|ffprobe/i;

function closePrograms({ load }: RehearsalView): Candidate[] {
  const hungry = (load?.during.programs ?? []).filter(({ name, cores }) => cores >= 0.3 && !OWN.test(name));
  if (hungry.length === 0) return [];
  const names = hungry.map(({ name, cores }) => `${name} (${cores.toFixed(1)} cores)`).join(', ');
  const total = hungry.reduce((sum, { cores }) => sum + cores, 0);
  return [
    {
      id: 'close-programs',
      title: `Close ${names}`,
      instead: null,
      cost: 'Nothing that the viewer sees.',
      rig: null,
      factor: 1 / (1 + total),
      isGuess: true,
      loss: 0,
    },
  ];
}

function previewOff({ rig }: RehearsalView): Candidate[] {
  if (rig.picture.preview === 'off') return [];
  return [
    {
      id: 'preview',
      title: 'Preview off while recording',
      instead: 'on',
      cost: 'This page shows no picture while you record. The video is the same.',
      rig: withValue(rig, 'picture.preview', 'off'),
      factor: PREVIEW_FACTOR,
      isGuess: true,
      // The viewer loses nothing; whoever records no longer sees what they show.
      loss: 0.02,
    },
  ];
}

function regionOnly({ rig: { picture } }: RehearsalView): Candidate[] {
  if (picture.source.from !== 'screen' || picture.source.meant !== 'display' || picture.aim !== 'whole')
    return [];
  return [
    {
      id: 'region',
      title: 'A region instead of the full display',
      instead: null,
      cost: 'Anything outside the region is not recorded; text stays as clear.',
      rig: null,
      factor: REGION_FACTOR,
      isGuess: true,
      loss: 0.06,
    },
  ];
}

function textHintOff({ now: { rig, encoder }, speeds }: Known): Candidate[] {
  if (!encoder?.textHint) return [];
  const [on, off] = [speedOf(speeds, encoder.codec, true), speedOf(speeds, encoder.codec, false)];
  const known = on?.textHint && off && !off.textHint;
  return [
    {
      id: 'text-hint',
      title: 'Text hint off',
      instead: 'on',
      cost: 'The file is larger at the same clarity.',
      rig: withValue(rig, 'picture.textHint', 'off'),
      ...(known
        ? { factor: on.framesPerSecond / off.framesPerSecond }
        : { factor: HINT_FACTOR, isGuess: true as const }),
      loss: 0.01,
    },
  ];
}

function otherCodecs({ now: { rig, encoder }, speeds }: Known): Candidate[] {
  if (!encoder) return [];
  const present = speedOf(speeds, encoder.codec, encoder.textHint);
  if (!present) return [];
  return VideoCodec.options.flatMap((codec) => {
    const speed = speedOf(speeds, codec, encoder.textHint);
    if (codec === encoder.codec || !speed || speed.framesPerSecond < 1.1 * present.framesPerSecond) return [];
    const picture = { ...rig.picture, codec, level: null, profile: 'automatic' as const };
    return [
      {
        id: `codec-${codec}`,
        title: `Codec ${CODEC_NAMES[codec]}`,
        instead: CODEC_NAMES[encoder.codec],
        cost: codec === 'h264' ? 'Nothing that the viewer sees.' : 'The plain video takes longer to make.',
        rig: { ...rig, picture },
        factor: present.framesPerSecond / speed.framesPerSecond,
        loss: codec === 'h264' ? 0.005 : 0.015,
      },
    ];
  });
}

function processAfterwards({ rig }: RehearsalView): Candidate[] {
  if (rig.voice?.treated !== 'while-recording' || !rig.voice.treatment.denoise) return [];
  return [
    {
      id: 'process-afterwards',
      title: 'Noise reduction after recording',
      instead: 'while recording',
      cost: 'Nothing that the viewer hears.',
      rig: { ...rig, voice: { ...rig.voice, treated: 'afterwards' } },
      factor: 0.95,
      isGuess: true,
      loss: 0,
    },
  ];
}

const pixelRate = ({ width, height }: Size, rate: FrameRate) => width * height * framesPerSecond(rate);

function smallerCamera({ rig, encoder }: RehearsalView): Candidate[] {
  const { camera } = rig;
  if (!camera || !encoder) return [];
  const screen = pixelRate(encoder.size, rig.picture.frameRate);
  const own = pixelRate(camera.size, camera.frameRate);
  // Both encoders share the processor: what the camera needs is missing to the screen.
  const factorFor = (rest: number) => (screen + rest) / (screen + own);
  const steps: Candidate[] = [
    {
      id: 'camera-off',
      title: 'Camera off',
      instead: 'on',
      cost: 'You are not seen.',
      rig: { ...rig, camera: null },
      factor: factorFor(0),
      loss: 0.25,
    },
  ];
  if (framesPerSecond(camera.frameRate) > 15)
    steps.unshift({
      id: 'camera-rate',
      title: 'Camera at 15 fps',
      instead: `${rateText(camera.frameRate)} fps`,
      cost: 'Lips look out of sync.',
      rig: { ...rig, camera: { ...camera, frameRate: { num: 15, den: 1 } } },
      factor: factorFor(pixelRate(camera.size, { num: 15, den: 1 })),
      loss: 0.08,
    });
  if (camera.size.width > 640) {
    const size = { width: 640, height: even((640 * camera.size.height) / camera.size.width) };
    steps.unshift({
      id: 'camera-size',
      title: `Camera ${sizeText(size)}`,
      instead: sizeText(camera.size),
      cost: 'None while the camera is small in the picture.',
      rig: { ...rig, camera: { ...camera, size } },
      factor: factorFor(pixelRate(size, camera.frameRate)),
      loss: 0.02,
    });
  }
  return steps;
}

function slowerRate({ rig }: RehearsalView): Candidate[] {
  const present = framesPerSecond(rig.picture.frameRate);
  const slower = RATES.filter((rate) => framesPerSecond(rate) < present).slice(0, 2);
  return slower.map((rate) => ({
    id: 'frame-rate',
    title: `Frame rate ${rateText(rate)} fps`,
    instead: `${rateText(rig.picture.frameRate)} fps`,
    cost:
      framesPerSecond(rate) >= 20
        ? 'Motion is a little less smooth.'
        : 'Motion is visibly less smooth; text is as clear.',
    rig: withValue(rig, 'picture.frameRate', rate),
    // Each frame has more time, which is the same as taking less of it.
    factor: framesPerSecond(rate) / present,
    loss: 0.05 + 0.12 * Math.max(0, 1 - framesPerSecond(rate) / Math.min(present, 30)),
  }));
}

function smallerPicture({ rig, encoder }: RehearsalView): Candidate[] {
  if (!encoder) return [];
  return SIDES.flatMap((side) => {
    const box = { width: even(encoder.size.width * side), height: even(encoder.size.height * side) };
    if (box.width < NARROWEST) return [];
    return {
      id: 'frame-size',
      title: `Frame size ${sizeText(box)}`,
      instead: sizeText(encoder.size),
      cost: 'Text is softer, unless the window that you show is made smaller as well.',
      rig: { ...rig, picture: { ...rig.picture, box, fit: 'within' as const } },
      factor: side * side,
      loss: 0.12 + 0.5 * (1 - side),
    };
  });
}

function scaleInBrowser({ rig }: RehearsalView): Candidate[] {
  if (rig.picture.filter === 'browser' || rig.picture.box === null) return [];
  return [
    {
      id: 'filter',
      title: 'Downscaling by the browser',
      instead: rig.picture.filter,
      cost: 'Text is slightly softer.',
      rig: withValue(rig, 'picture.filter', 'browser'),
      factor: 0.3,
      isGuess: true,
      loss: 0.03,
    },
  ];
}

function noBars({ rig }: RehearsalView): Candidate[] {
  if (rig.picture.fit !== 'letterbox' || rig.picture.box === null) return [];
  return [
    {
      id: 'fit',
      title: 'No bars',
      instead: 'letterbox',
      cost: 'The picture has the shape of the source; bars are added on delivery.',
      rig: withValue(rig, 'picture.fit', 'within'),
      factor: 0.5,
      isGuess: true,
      loss: 0.01,
    },
  ];
}

function lowerBitrate({ rig, figures }: RehearsalView): Candidate[] {
  if (rig.picture.rateControl === 'quantizer') return [];
  const present = rig.picture.bitrateKbps ?? Math.round((figures.bytesPerMinute * 8) / 60_000);
  const bitrateKbps = Math.max(100, Math.round(present / 2));
  return [
    {
      id: 'bitrate',
      title: `Bitrate ${bitrateKbps} kb/s`,
      instead: rig.picture.bitrateKbps === null ? 'automatic' : `${present} kb/s`,
      cost: 'Text may be less clear: compare the figures after it.',
      rig: { ...rig, picture: { ...rig.picture, bitrateKbps } },
      factor: 0.5,
      loss: 0.1,
    },
  ];
}
