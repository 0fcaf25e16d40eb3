import type { SegmentId } from '../base/ids';
import type { SegmentHead, TrackKind } from '../recording/take';

/** What a media file tells of itself, when nothing else is left that describes it. */
export type FoundMedia = {
  id: SegmentId;
  /** First timestamp, on the take's clock. */
  startUs: number;
  /** Sound before the first sample, where the container says so. */
  encoderDelayUs: number;
  media:
    | { type: 'video'; codec: string; width: number; height: number; bitrateKbps: number }
    | { type: 'audio'; codec: string; sampleRate: number; channels: number; bitrateKbps: number }
    | { type: 'events' };
  /** The track's name, where a file of the same take carries it. */
  named?: TrackKind;
};

/**
 * Guesses which track each file belongs to: the larger picture is the screen, the other one the camera; one channel is the voice, two
 * channels are app sound. A single sound is the voice. Names win over guesses.
 * @returns a head for each file, in the order of their tracks and starts; nothing is left out
 */
export function recognizeTracks(found: readonly FoundMedia[]): SegmentHead[] {
  const area = ({ media }: FoundMedia) => (media.type === 'video' ? media.width * media.height : 0);
  const largest = Math.max(0, ...found.map(area));
  const sounds = found.filter(({ media }) => media.type === 'audio');
  const oneSound = new Set(sounds.map(({ media }) => media.type === 'audio' && media.channels)).size === 1;
  const kindOf = (file: FoundMedia): TrackKind => {
    if (file.named) return file.named;
    if (file.media.type === 'events') return 'events';
    // Two segments of the screen may differ a little in size; a camera is far smaller.
    if (file.media.type === 'video') return area(file) * 2 >= largest ? 'screen' : 'camera';
    return oneSound || file.media.channels === 1 ? 'voice' : 'app-sound';
  };
  const counts = new Map<TrackKind, number>();
  return [...found]
    .sort((a, b) => a.startUs - b.startUs)
    .map((file) => {
      const track = kindOf(file);
      const index = counts.get(track) ?? 0;
      counts.set(track, index + 1);
      return {
        id: file.id,
        track,
        index,
        startUs: Math.max(0, Math.round(file.startUs)),
        configuration: configurationOf(file.media),
        encoderDelayUs: file.encoderDelayUs,
        offsetUs: 0,
        offsetHow: 'declared',
        continues: false,
      };
    });
}

function configurationOf(media: FoundMedia['media']): SegmentHead['configuration'] {
  if (media.type === 'events') return { type: 'events' };
  if (media.type === 'audio') return { ...media, bitrateKbps: Math.max(1, Math.round(media.bitrateKbps)) };
  return {
    ...media,
    bitrateKbps: Math.max(1, Math.round(media.bitrateKbps)),
    textHint: false,
    sourceWidth: media.width,
    sourceHeight: media.height,
  };
}
