import { isTreated } from '../audio/treatment';
import { type FrameRate, framesPerSecond } from '../base/rational';
import type { Size } from '../base/sizes';
import { fitted } from '../layout/fit';
import type { Rig } from '../rig/rig';

/**
 * Bitrate to ask of the encoder when the rig says "automatic". It is a ceiling for busy stretches, not what a still
 * screen costs: the encoder spends less automatically. Anchored at 4 Mb/s for 1280 × 720 at 30, where text stayed clear in
 * every scene of the practice desk; need grows with pixels^0.8 (neighbours repeat) and the root of the frame rate.
 * @returns kb/s, rounded to 100
 */
export function automaticBitrateKbps(size: Size, rate: FrameRate): number {
  const pixels = (size.width * size.height) / (1280 * 720);
  const kbps = 4000 * pixels ** 0.8 * Math.sqrt(framesPerSecond(rate) / 30);
  return Math.max(300, Math.round(kbps / 100) * 100);
}

/** The camera is a small moving face: half the screen's need for its size. */
export const cameraBitrateKbps = (size: Size, rate: FrameRate): number =>
  Math.round(automaticBitrateKbps(size, rate) / 2);

/** What each track of a rig costs at most, kb/s. A still screen costs far less. */
export type TrackRates = { screen: number; camera: number; voice: number; appSound: number; total: number };

/**
 * @param source size of what is aimed at; undefined while nothing is
 * @param cameraSize that the camera really gives; undefined while it is not known
 * @param devices what the sound devices give, as far as it is known
 */
export function trackRates(
  rig: Rig,
  source: Size | undefined,
  cameraSize?: Size,
  devices: SoundDevices = {},
): TrackRates {
  const picture =
    rig.picture.source.from === 'none' || !source ? undefined : fitted(rig.picture, source).size;
  const screen = picture
    ? (rig.picture.bitrateKbps ?? automaticBitrateKbps(picture, rig.picture.frameRate))
    : 0;
  const camera = rig.camera ? cameraBitrateKbps(cameraSize ?? rig.camera.size, rig.camera.frameRate) : 0;
  const { codec, voiceKbps, appKbps } = rig.sound;
  const kept = (track: SoundRole, kbps: number) =>
    codec === 'opus' ? kbps : rawSoundKbps(rig, track, devices[track]);
  const voice = rig.voice ? kept('voice', voiceKbps) : 0;
  const appSound = rig.appSound ? kept('appSound', appKbps) : 0;
  return { screen, camera, voice, appSound, total: screen + camera + voice + appSound };
}

export type SoundRole = 'voice' | 'appSound';

/** What a sound device gives; null or absent: it does not say. */
export type SoundDevice = { sampleRate?: number | null; channels?: number | null };
export type SoundDevices = Partial<Record<SoundRole, SoundDevice>>;

/**
 * In how many channels a sound is recorded: never in more than its device gives. Processing while recording knows one; programs sound
 * in two.
 */
export function soundChannels({ voice }: Rig, role: SoundRole, device: SoundDevice = {}): 1 | 2 {
  const processed = voice?.treated === 'while-recording' && isTreated(voice.treatment);
  const wanted = role === 'appSound' ? 2 : processed ? 1 : (voice?.channels ?? 1);
  return device.channels === 1 ? 1 : wanted;
}

/**
 * A sound before it is encoded, kb/s: channels × sample rate × bits.
 * @param device its rate counts where the rig asks for none of its own
 */
export function rawSoundKbps(rig: Rig, role: SoundRole, device: SoundDevice = {}): number {
  const { codec, sampleRate } = rig.sound;
  const bits = codec === 'pcm-24' ? 24 : 16;
  return (soundChannels(rig, role, device) * (sampleRate ?? device.sampleRate ?? 48_000) * bits) / 1000;
}

/** Megabytes (10⁶) a minute of a bitrate. */
export const megabytesPerMinute = (kbps: number): number => (kbps * 60) / 8000;

/** Whether a picture with the text hint leaves enough of its time to capture, camera, sound and the program that is shown. */
export const hasTimeForHint = (encodeMs: number, rate: FrameRate): boolean =>
  encodeMs <= (1000 / framesPerSecond(rate)) * 0.6;

export type HintChoice = { hint: boolean; reason: string };

/**
 * Whether "automatic" tells the encoder that the picture is text. The hint about halves the size of screen content and
 * costs up to three times the encoding time, so it is taken where the time per frame leaves room for it.
 * @param encodeMs measured time of a frame with the hint on this machine, or undefined when nothing was measured
 */
export function automaticTextHint(rate: FrameRate, size: Size, encodeMs: number | undefined): HintChoice {
  const budgetMs = 1000 / framesPerSecond(rate);
  if (encodeMs !== undefined) {
    const hint = hasTimeForHint(encodeMs, rate);
    return {
      hint,
      reason: `a frame with the text hint takes ${encodeMs.toFixed(0)} ms of ${budgetMs.toFixed(0)}`,
    };
  }
  // Unmeasured: 1280 × 720 at 30 is the load that software encoders were seen to carry with the hint.
  const hint = size.width * size.height * framesPerSecond(rate) <= 1280 * 720 * 30;
  return { hint, reason: 'not measured yet: decided by picture size and frame rate' };
}
