import { openStretch, type Stretch } from '@/core/audio/stretch';
import type { DecodedSound } from './reels';

/** A sound that begins farther than this from where the one before ended is no continuation of it. */
const GAP_US = 2000;

/**
 * Sounds of a take at another speed and the same pitch. Each lies at its own take time still, and is as long as it is heard.
 * @param speed 1 passes them on
 */
export async function* stretched(
  sounds: AsyncIterable<DecodedSound>,
  speed: number,
): AsyncGenerator<DecodedSound, void, void> {
  if (speed === 1) return yield* sounds;
  let line: Line | null = null;
  for await (const sound of sounds) {
    if (line && !goesOn(line, sound)) {
      yield* made(line, line.stretch.end());
      line = null;
    }
    line ??= openLine(sound, speed);
    line.takenUs = sound.takeUs + lengthUs(sound);
    yield* made(line, line.stretch.push(sound.planes));
  }
  if (line) yield* made(line, line.stretch.end());
}

type Line = {
  stretch: Stretch;
  speed: number;
  sampleRate: number;
  channels: number;
  startUs: number;
  /** Up to where the take's sound was given. */
  takenUs: number;
  /** Samples that came of it. */
  samples: number;
};

const lengthUs = ({ planes, sampleRate }: DecodedSound) => ((planes[0]?.length ?? 0) * 1e6) / sampleRate;

const openLine = ({ takeUs, sampleRate, planes }: DecodedSound, speed: number): Line => ({
  stretch: openStretch(speed, sampleRate, planes.length),
  ...{ speed, sampleRate, channels: planes.length, startUs: takeUs, takenUs: takeUs, samples: 0 },
});

const goesOn = (line: Line, { takeUs, sampleRate, planes }: DecodedSound): boolean =>
  line.sampleRate === sampleRate &&
  line.channels === planes.length &&
  Math.abs(takeUs - line.takenUs) <= GAP_US;

function* made(line: Line, planes: Float32Array<ArrayBuffer>[]): Generator<DecodedSound, void, void> {
  const length = planes[0]?.length ?? 0;
  if (length === 0) return;
  const { startUs, speed, sampleRate, samples } = line;
  line.samples += length;
  yield { takeUs: Math.round(startUs + (samples * 1e6 * speed) / sampleRate), sampleRate, planes };
}
