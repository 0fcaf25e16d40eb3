import { joinedSamples } from '@/core/audio/planes';
import type { DecodedSound } from './reels';

/** Decoders give out 10 or 20 ms at a time, too many for a page to take in one by one. */
const PIECE_US = 240_000;
/** The first one is waited for. */
const FIRST_PIECE_US = 60_000;

const lengthUs = ({ planes, sampleRate }: DecodedSound): number =>
  ((planes[0]?.length ?? 0) * 1e6) / sampleRate;

/** Whether a sound goes on where another ends, to the sample. */
const follows = (before: DecodedSound, next: DecodedSound): boolean =>
  next.sampleRate === before.sampleRate &&
  next.planes.length === before.planes.length &&
  Math.abs(next.takeUs - before.takeUs - lengthUs(before)) < 1e6 / next.sampleRate;

/** @param sounds of which each follows the one before */
function joined(sounds: DecodedSound[]): DecodedSound {
  const [first] = sounds;
  if (!first || sounds.length === 1) return first as DecodedSound;
  const planes = first.planes.map((_, channel) =>
    joinedSamples(sounds.map(({ planes }) => planes[channel] as Float32Array<ArrayBuffer>)),
  );
  return { ...first, planes };
}

/** Joins decoded sounds to pieces of about a quarter of a second, the first one shorter; where a sample is missing a new piece begins. */
export async function* gathered(
  sounds: AsyncIterable<DecodedSound>,
): AsyncGenerator<DecodedSound, void, void> {
  let waiting: DecodedSound[] = [];
  let wantedUs = FIRST_PIECE_US;
  let heldUs = 0;
  const take = () => {
    const piece = joined(waiting);
    waiting = [];
    heldUs = 0;
    return piece;
  };
  for await (const sound of sounds) {
    const last = waiting.at(-1);
    if (last && !follows(last, sound)) yield take();
    waiting.push(sound);
    heldUs += lengthUs(sound);
    if (heldUs < wantedUs) continue;
    wantedUs = PIECE_US;
    yield take();
  }
  if (waiting.length > 0) yield take();
}
