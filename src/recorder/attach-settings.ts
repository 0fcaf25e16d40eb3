import { isTreated } from '@/core/audio/treatment';
import { chooseCodec, type EncoderSpeed, otherCodec } from '@/core/encoding/encoder-speed';
import { soundChannels } from '@/core/encoding/rate';
import type { Rig } from '@/core/rig/rig';
import type { AttachSettings, MediaRole, SoundSettings, VideoSettings } from './messages';

/** What was measured here before. */
export type Known = {
  /** Of the encoders, at the picture's size. */
  speeds?: readonly EncoderSpeed[];
  /** Time of a picture with the text hint. */
  hintMs?: number;
};

/** What the recorder is asked for, of a rig: all that its encoders obey, and nothing else. */
export function attachSettings(role: MediaRole, rig: Rig, known: Known): AttachSettings {
  if (role === 'screen' || role === 'camera') return { video: videoSettings(role, rig, known) };
  return { sound: soundSettings(role, rig) };
}

/** How a rig keeps a sound. */
export function soundSettings(role: 'voice' | 'app-sound', rig: Rig): SoundSettings {
  const { voice } = rig;
  const { codec, sampleRate, voiceKbps, appKbps } = rig.sound;
  if (role === 'app-sound')
    return { codec, sampleRate, kbps: appKbps, channels: soundChannels(rig, 'appSound'), treatment: null };
  const treated = voice?.treated === 'while-recording' && isTreated(voice.treatment);
  return {
    codec,
    sampleRate,
    kbps: voiceKbps,
    channels: soundChannels(rig, 'voice'),
    treatment: treated ? voice.treatment : null,
  };
}

function videoSettings(role: 'screen' | 'camera', rig: Rig, known: Known): VideoSettings {
  const { source: _, regions: _named, viewer: _watched, pointer: _captured, ...asked } = rig.picture;
  const speeds = known.speeds ?? [];
  const { codec } = chooseCodec(asked, speeds);
  const picture = {
    ...asked,
    codec,
    otherCodec: asked.codec === 'automatic' ? otherCodec(codec, speeds) : undefined,
  };
  if (role === 'screen' || !rig.camera) return { ...picture, measuredHintMs: known.hintMs };
  return {
    ...picture,
    // The camera is small and must never cost the screen its frames: the fastest codec, no larger than it is captured.
    aim: 'whole',
    follow: null,
    fit: 'within',
    codec: 'h264',
    otherCodec: 'vp9',
    profile: 'automatic',
    level: null,
    rateControl: 'average',
    bitrateKbps: null,
    keyframeEvery: { unit: 'seconds', value: 2 },
    textHint: 'off',
    box: rig.camera.size,
    frameRate: rig.camera.frameRate,
  };
}
