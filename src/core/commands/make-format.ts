import { type Format, formatRate, isSoundOnly } from '../codec/formats';
import { isSound, type PlainInput, type PlainSound } from '../deliver/plain-input';
import type { Rig } from '../rig/rig';
import { noInputs, openInput } from './input-list';
import { soundMix } from './plain-sound';
import { seconds } from './seconds';

/** How the sound of each format is encoded. */
const SOUND_ARGS: Readonly<Record<Exclude<Format, 'mov' | 'm4a'>, (bits24: boolean) => string[]>> = {
  webm: () => ['-c:a', 'libopus', '-b:a', '128k'],
  mp3: () => ['-c:a', 'libmp3lame', '-b:a', '160k'],
  flac: (bits24) => ['-c:a', 'flac', '-sample_fmt', bits24 ? 's32' : 's16'],
  wav: (bits24) => ['-c:a', bits24 ? 'pcm_s24le' : 'pcm_s16le'],
  opus: () => ['-c:a', 'libopus', '-b:a', '96k'],
};

/**
 * ffmpeg's arguments, up to the output, that make a format of a take. Pictures are copied; sound is mixed from the tracks as they are
 * heard, so that nothing is encoded twice where a format does not take what the plain video has.
 * @param inputs the take's tracks as they are seen and heard
 * @param plainPath of the plain video
 */
export function formatArgs(
  format: Format,
  inputs: readonly PlainInput[],
  rig: Rig,
  durationUs: number,
  plainPath: string,
): string[] {
  if (format === 'mov') return ['-i', plainPath, '-c', 'copy', '-movflags', '+faststart'];
  if (format === 'm4a') return ['-i', plainPath, '-map', '0:a', '-c', 'copy', '-movflags', '+faststart'];
  const screen = isSoundOnly(format) ? undefined : inputs.find(({ track }) => track === 'screen');
  const sounds = inputs.filter(isSound);
  const list = noInputs();
  if (screen) openInput(list, screen.path);
  const chains = soundMix(sounds, rig, list, 0);
  const encoder = [...SOUND_ARGS[format](rig.sound.codec === 'pcm-24'), ...soundShape(format, sounds, rig)];
  return [
    ...['-copyts', ...list.args],
    ...(chains.length > 0 ? ['-filter_complex', chains.join(';')] : []),
    ...(screen ? ['-map', '0:v', '-c:v', 'copy'] : []),
    ...(sounds.length > 0 ? ['-map', '[mix]', ...encoder] : []),
    ...['-t', seconds(durationUs)],
    ...(screen ? ['-avoid_negative_ts', 'disabled'] : []),
  ];
}

/** One voice of one channel stays one channel; whatever has two sides has two. */
function soundShape(format: Format, [only, ...more]: readonly PlainSound[], { sound }: Rig): string[] {
  const channels = only && more.length === 0 ? only.configuration.channels : 2;
  return ['-ar', String(formatRate(format, sound.sampleRate)), '-ac', String(channels)];
}
