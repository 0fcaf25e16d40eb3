import { placeChunk, type SoundLine, silenceUntil, startSoundLine } from '@/core/recording/sound-line';
import type { SoundShape } from './encoded-sound';
import { elapsed, isPaused, type Recording, takeTime } from './recording';
import type { Sound } from './sound-source';
import type { SoundWriter } from './sound-writer';

/** A source that gives nothing for this long leaves silence in its track, so that the track stays as long as the take. A machine that stalls for a moment delivers its sound later. */
const SILENT_AFTER_US = 1_500_000;
/** A track that begins later than this, or again, gets a segment of its own start instead of leading silence. */
const LATE_US = 2_000_000;

/** Puts sound where it belongs on the take. None is ever dropped: gaps are filled with silence, so that the samples always count the take's time. */
export function openPlacing(role: 'voice' | 'app-sound', writer: SoundWriter, nowUs: () => number) {
  let [recording, line]: [Recording | null, SoundLine | null] = [null, null];
  /** Take time at which the line begins: 0, or where a track that came late begins. */
  let originUs = 0;
  let endUs = Number.POSITIVE_INFINITY;
  let channels = 1;
  let [stopped, wasPaused] = [false, false];

  /** @param after samples of the line that are already written */
  const write = (own: Float32Array[], silence: number, after: number) => {
    if (!recording || !line) return;
    const [take, shape] = [recording, { sampleRate: line.sampleRate, channels }];
    const put = (planes: Float32Array[], at: number) =>
      writer.put(take, planes, originUs + (at * 1e6) / shape.sampleRate, shape);
    writeAfterSilence(put, shape, own, silence, after);
  };

  /** Silence that no device gave. @param at sample of the line at which it begins */
  const noteGap = (at: number, silence: number) => {
    if (!line || silence === 0) return;
    const [ms, atUs] = [(silence * 1000) / line.sampleRate, originUs + (at * 1e6) / line.sampleRate];
    recording?.rehearsal?.trace.soundGap({ track: role, atUs, ms });
  };

  const missing = () => (line ? silenceUntil(line, endUs - originUs) : 0);
  const fill = (silence: number) => {
    if (!line || silence <= 0) return;
    const after = line.placed;
    line = { ...line, placed: after + silence, realign: true };
    noteGap(after, silence);
    write([], silence, after);
  };

  return {
    isStarted: () => recording !== null,
    start: (next: Recording) => {
      [recording, endUs] = [next, next.untilUs];
    },
    /** @param gained the planes as they are written */
    place: (sound: Sound, gained: (planes: Float32Array[]) => Float32Array[]) => {
      if (!recording || stopped) return;
      const frames = sound.planes[0]?.length ?? 0;
      const tUs = takeTime(recording, sound.monotonicUs);
      if (tUs === null) wasPaused ||= isPaused(recording);
      if (tUs === null || tUs >= endUs || frames === 0) return;
      if (!line) {
        [line, channels] = [startSoundLine(sound.sampleRate), sound.planes.length];
        originUs = tUs > LATE_US || recording.hasSegments(role) ? Math.max(0, tUs) : 0;
      }
      if (wasPaused) line = { ...line, realign: true };
      wasPaused = false;
      const after = line.placed;
      const placed = placeChunk(line, tUs - originUs, frames);
      line = placed.line;
      if (after > 0) noteGap(after, placed.silence);
      const own = gained(sound.planes).map((plane) => plane.subarray(placed.leaveOut));
      write(own, placed.silence, after);
    },
    /** Fills up what a source that gives nothing has left open. */
    keepUp: () => {
      if (!recording || stopped || !line || isPaused(recording)) return;
      const behind = silenceUntil(line, elapsed(recording, nowUs()) - SILENT_AFTER_US - originUs);
      if (behind >= line.sampleRate / 2) fill(behind);
    },
    endAt: (atUs: number) => {
      endUs = Math.min(endUs, atUs);
    },
    /** Whether sound is missing up to the end. */
    isShort: () => !stopped && missing() > 0,
    /** Fills up what is missing to the end that was told. */
    finish: () => {
      if (stopped) return;
      stopped = true;
      fill(missing());
    },
    abandon: () => {
      stopped = true;
    },
  };
}

/** A long silence goes in pieces: nobody needs it in memory whole. */
function writeAfterSilence(
  put: (planes: Float32Array[], at: number) => void,
  { sampleRate, channels }: SoundShape,
  own: Float32Array[],
  silence: number,
  after: number,
): void {
  for (let done = 0; done < silence; done += sampleRate)
    put(quiet(channels, Math.min(silence - done, sampleRate)), after + done);
  if ((own[0]?.length ?? 0) > 0) put(own.slice(0, channels), after + silence);
}

const quiet = (channels: number, frames: number) =>
  Array.from({ length: channels }, () => new Float32Array(frames));
