import { framesPerSecond } from '../base/rational';
import { rawBitsPerSecond, type Size } from '../base/sizes';
import type { VideoCodec } from '../codec/codecs';
import { fitted, hasBars } from '../layout/fit';
import type { Rig } from '../rig/rig';
import { isRealTime } from '../rig/rig';
import { type BitrateMarks, expectedKbps } from './bitrate-marks';
import {
  megabytesPerMinute,
  rawSoundKbps,
  type SoundDevices,
  type SoundRole,
  soundChannels,
  trackRates,
} from './rate';

/** An amount at one place of the flow, in bits a second unless its name says otherwise. `range`: it is an estimate and may lie anywhere in between. */
export type Amount = { value: number; range: readonly [least: number, most: number] | null };

export type ScreenAmounts = {
  source: Size;
  /** What aiming keeps of it. */
  kept: Size;
  /** What its fit leaves of that. */
  crop: Size;
  fit: Rig['picture']['fit'];
  bars: boolean;
  picture: Size & { scale: number };
  /** At each narrowing: what the display shows, what aiming keeps, what size and rate leave, what the encoder makes of it. */
  display: Amount;
  aim: Amount;
  picked: Amount;
  encoded: Amount;
};
export type TrackFlow = { raw: Amount; encoded: Amount };
/** A sound, and in how many channels it is recorded. */
export type SoundFlow = TrackFlow & { channels: 1 | 2 };

/** The data of a rig from its sources to the disk. */
export type Flow = {
  screen: ScreenAmounts | null;
  camera: (TrackFlow & { size: Size }) | null;
  voice: SoundFlow | null;
  appSound: SoundFlow | null;
  /** All tracks together, as they reach the disk. */
  file: Amount;
  megabytesAMinute: Amount;
  /** For the planned length, when one is planned. */
  megabytesPlanned: Amount | null;
  how: 'estimated' | 'sampled' | 'measured';
};

/** What is known beside the rig. */
export type FlowFacts = {
  /** Size of what is aimed at; undefined while nothing is. */
  source?: Size;
  /** Size that the camera really gives. */
  cameraSize?: Size;
  /** What the sound devices give. */
  soundDevices?: SoundDevices;
  codec: VideoCodec;
  textHint: boolean;
  /** What a take or a rehearsal with the same choices came to, kb/s. */
  measured?: { screen: number; camera: number; voice: number | null; appSound: number | null } | null;
  /** What a few seconds of what is being captured now came to at several bitrates. */
  marks?: BitrateMarks | null;
};

/** A display shows no more, and browsers capture no more often. */
export const SOURCE_FPS = 60;
/** Share of its ceiling that screen work came to in takes of the practice desk: without and with the text hint, and its range. */
const SCREEN_SHARE = { plain: 0.34, hint: 0.16, least: 0.02, most: 1 };
/** The same of a face before a wall. The practice presenter came to 0.09; a noisy camera takes all that it may. */
const CAMERA_SHARE = { usual: 0.3, least: 0.04, most: 1 };
/**
 * Opus stays near its bitrate while somebody speaks and far below it in silence (RFC 6716, 2.1.8: variable bitrate). Measured in a take of
 * the practice desk: a voice 69 of 64 kb/s, program sounds that are rarely heard 10 of 96.
 */
const OPUS_SHARE = { usual: 1, least: 0.1, most: 1.15 };
/** Bits/pixel at quantizer 30, halving every 10 steps: not measured, so it is told with a range of eight times either way. */
const QUANTIZER_BITS = 0.02;

const exact = (value: number): Amount => ({ value, range: null });
const scaled = ({ value, range }: Amount, by: number): Amount => ({
  value: value * by,
  range: range && [range[0] * by, range[1] * by],
});
const add = (amounts: readonly Amount[]): Amount => ({
  value: amounts.reduce((sum, { value }) => sum + value, 0),
  range: amounts.some(({ range }) => range)
    ? [
        amounts.reduce((sum, { value, range }) => sum + (range?.[0] ?? value), 0),
        amounts.reduce((sum, { value, range }) => sum + (range?.[1] ?? value), 0),
      ]
    : null,
});

/** The flow of a rig. Every figure of Set up about amounts comes from here. */
export function flowOf(rig: Rig, facts: FlowFacts): Flow {
  const { measured, marks } = facts;
  const { picture } = rig;
  const rates = trackRates(rig, facts.source, facts.cameraSize, facts.soundDevices);
  // A second of work becomes `num/den` seconds of film: so many of the film's frames are taken from it.
  const filmSeconds = picture.speed.num / picture.speed.den;
  const fps = framesPerSecond(picture.frameRate) * filmSeconds;
  let screen: ScreenAmounts | null = null;
  if (facts.source && picture.source.from !== 'none') {
    const made = fitted(picture, facts.source);
    const display = exact(rawBitsPerSecond(facts.source, SOURCE_FPS));
    screen = {
      source: facts.source,
      kept: fitted({ ...picture, box: null }, facts.source).size,
      crop: made.crop,
      fit: picture.fit,
      bars: hasBars(made),
      picture: { ...made.size, scale: made.scale },
      display,
      aim: exact(rawBitsPerSecond(fitted({ ...picture, box: null }, facts.source).size, SOURCE_FPS)),
      picked: exact(rawBitsPerSecond(made.size, Math.min(fps, SOURCE_FPS))),
      encoded: scaled(screenAmount(rig, rates.screen, made.size, facts), filmSeconds),
    };
  }
  const cameraSize = facts.cameraSize ?? rig.camera?.size;
  const camera =
    rig.camera && cameraSize
      ? {
          size: cameraSize,
          raw: exact(rawBitsPerSecond(cameraSize, framesPerSecond(rig.camera.frameRate))),
          encoded: measured
            ? exact(measured.camera * 1000)
            : share(rates.camera, CAMERA_SHARE.usual, CAMERA_SHARE.least, CAMERA_SHARE.most),
        }
      : null;
  const heard = isRealTime(picture.speed);
  const sound = (role: SoundRole): SoundFlow | null =>
    rig[role] && heard
      ? {
          channels: soundChannels(rig, role, facts.soundDevices?.[role]),
          raw: exact(rawSoundKbps(rig, role, facts.soundDevices?.[role]) * 1000),
          encoded: soundAmount(rig, rates[role], measured?.[role] ?? null),
        }
      : null;
  const [voice, appSound] = [sound('voice'), sound('appSound')];
  const file = add([screen, camera, voice, appSound].flatMap((track) => (track ? [track.encoded] : [])));
  const megabytesAMinute = scaled(file, megabytesPerMinute(1) / 1000);
  return {
    screen,
    camera,
    voice,
    appSound,
    file,
    megabytesAMinute,
    megabytesPlanned: rig.plannedLengthS === null ? null : scaled(megabytesAMinute, rig.plannedLengthS / 60),
    how: measured ? 'measured' : marks ? 'sampled' : 'estimated',
  };
}

/** PCM takes the same whatever is heard. */
function soundAmount({ sound }: Rig, kbps: number, measuredKbps: number | null): Amount {
  if (measuredKbps !== null) return exact(measuredKbps * 1000);
  const { usual, least, most } = OPUS_SHARE;
  return sound.codec === 'opus' ? share(kbps, usual, least, most) : exact(kbps * 1000);
}

const share = (kbps: number, usual: number, least: number, most: number): Amount => ({
  value: kbps * usual * 1000,
  range: [kbps * least * 1000, kbps * most * 1000],
});

function screenAmount(
  rig: Rig,
  ceilingKbps: number,
  picture: Size,
  { measured, marks, textHint }: FlowFacts,
): Amount {
  if (measured) return exact(measured.screen * 1000);
  if (rig.picture.rateControl === 'quantizer') {
    const bits = QUANTIZER_BITS * 2 ** ((30 - rig.picture.quantizer) / 10);
    const value = bits * picture.width * picture.height * framesPerSecond(rig.picture.frameRate);
    return { value, range: [value / 8, value * 8] };
  }
  if (marks) {
    const value = expectedKbps(marks, ceilingKbps) * 1000;
    // A few seconds stand for the whole lesson: stiller ones cost less, busier ones as much as is allowed.
    return { value, range: [value / 4, Math.max(value, Math.min(ceilingKbps * 1000, value * 3))] };
  }
  const { plain, hint, least, most } = SCREEN_SHARE;
  return share(ceilingKbps, textHint ? hint : plain, least, most);
}

/**
 * How wide an amount is drawn: in proportion to its logarithm, so that raw pixels and encoded sound have room beside each other.
 * @param value bits a second
 * @returns 0…1, from 10 kb/s to 10 Gb/s
 */
export const flowWidth = (value: number): number =>
  Math.min(1, Math.max(0.02, Math.log10(Math.max(1, value) / 1e4) / 6));
