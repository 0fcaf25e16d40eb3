import { clockText } from '../base/figures';
import { type TakeEvent, TRACK_NAMES, TrackKind } from './take';

const WHAT: Record<string, string> = {
  encoder: 'the encoder failed',
  muxer: 'the muxer failed',
  file: 'the file could not be written',
};
const THEN: Record<string, string> = {
  same: 'a new encoder took over',
  software: 'a software encoder took over',
  'other-codec': 'recording continued with another codec',
  end: 'the track ends there',
};

/** "Camera: the encoder failed at 0:12; a new encoder took over." Null for events that are no faults. */
export function faultSentence(event: { kind: string; tUs: number; data: TakeEvent['data'] }): string | null {
  if (event.kind !== 'fault') return null;
  const { role, part, by } = event.data;
  const track = TrackKind.safeParse(role);
  const [what, then] = [WHAT[String(part)], THEN[String(by)]];
  if (!track.success || !what || !then) return null;
  const next = by === 'same' && part !== 'encoder' ? 'a new file was started' : then;
  return `${TRACK_NAMES[track.data]}: ${what} at ${clockText(event.tUs)}; ${next}.`;
}
