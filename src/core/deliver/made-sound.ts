import type { Destination } from '../destination/destination';
import type { SoundInput } from './take-sources';

type Channels = 1 | 2;

/**
 * In how many channels a mix is made: as many as the destination takes. Where the smallest file is wanted and nothing in it was recorded
 * in two, one is enough: both sides would say the same.
 */
export const madeChannels = (
  { aim, sound }: Destination,
  sounds: readonly Pick<SoundInput, 'channels'>[],
): Channels => (aim === 'compact' && sounds.every(({ channels }) => channels === 1) ? 1 : sound.channels);

/** Of what two channels get, one gets so much: they share little but what is the same in both. */
const ONE_OF_TWO = 2 / 3;
/** AAC-LC keeps 15 kHz of one channel at this (docs/figures.md, `compact`), which is all of speech; Opus all of it. */
const LEAST_KBPS = { aac: 64, opus: 40 } as const;

/** The bitrate of a mix: what the destination allows, or less where fewer channels are made of it. */
export function madeKbps({ sound }: Destination, channels: Channels): number {
  if (sound.codec === 'pcm') return (sound.sampleRate * 24 * channels) / 1000;
  if (channels === sound.channels) return sound.kbps;
  return Math.min(sound.kbps, Math.max(LEAST_KBPS[sound.codec], Math.round(sound.kbps * ONE_OF_TWO)));
}

/** How a mix is encoded. */
export type SoundEncoding = {
  codec: Destination['sound']['codec'];
  kbps: number;
  sampleRate: number;
  channels: Channels;
};

export const soundEncoding = (destination: Destination, channels: Channels): SoundEncoding => ({
  codec: destination.sound.codec,
  kbps: madeKbps(destination, channels),
  sampleRate: destination.sound.sampleRate,
  channels,
});
