import fc from 'fast-check';
import { expect, it } from 'vitest';
import { DESTINATIONS, type Destination } from '../destination/destination';
import {
  type Attempt,
  attempted,
  beginningWith,
  ceilingText,
  firstAttempt,
  nextAttempt,
  type Outcome,
} from './attempt';
import { expectedBySample } from './expect';
import { CLEAREST_CRF } from './quality';

const RATE = { num: 30, den: 1 };
const SIZE = { width: 1280, height: 720 };
const of = (id: string, change: Partial<Destination> = {}): Destination => {
  const found = DESTINATIONS.find((one) => one.id === id);
  if (!found) throw new Error(id);
  return { ...found, ...change };
};

/** A made-up screen: what it takes at CRF 30 of H.264, how bytes fall with everything, and where its text stops being clear. */
type Screen = {
  bytes: number;
  halving: number;
  perFps: number;
  perPixel: number;
  av1: number;
  clearTo: number;
};
const screens = fc.record({
  bytes: fc.integer({ min: 20_000, max: 30_000_000 }),
  halving: fc.integer({ min: 5, max: 12 }),
  perFps: fc.float({ min: Math.fround(0.1), max: 1, noNaN: true }),
  perPixel: fc.float({ min: 0, max: 1, noNaN: true }),
  av1: fc.float({ min: Math.fround(0.25), max: Math.fround(0.8), noNaN: true }),
  clearTo: fc.integer({ min: -9, max: 6 }),
});

function encode(screen: Screen, attempt: Attempt): Outcome {
  const middle = CLEAREST_CRF[attempt.codec];
  const picture =
    screen.bytes *
    (attempt.codec === 'av1' ? screen.av1 : 1) *
    2 ** ((middle - attempt.crf) / screen.halving) *
    ((attempt.fps ?? 30) / 30) ** screen.perFps *
    attempt.scale ** (2 * screen.perPixel);
  return {
    ...attempt,
    bytes: Math.round(picture) + 100_000,
    otherBytes: 100_000,
    clear: attempt.crf <= middle + screen.clearTo,
  };
}

/** Tries as a render does. */
function run(destination: Destination, screen: Screen, most = 30): Outcome[] {
  const outcomes = [encode(screen, firstAttempt(destination))];
  for (let next = nextAttempt(destination, RATE, outcomes); next && outcomes.length < most; ) {
    outcomes.push(encode(screen, next));
    next = nextAttempt(destination, RATE, outcomes);
  }
  return outcomes;
}

it('without a ceiling goes finer until the text is clear, and no further', () => {
  fc.assert(
    fc.property(screens, fc.constantFrom('course-platform', 'message-attachment'), (screen, id) => {
      const outcomes = run(of(id, { maxBytes: null }), screen);
      const crfs = outcomes.map(({ crf }) => crf);
      expect(crfs).toEqual([...crfs].sort((a, b) => b - a));
      expect(outcomes.at(-1)?.clear).toBe(true);
      expect(outcomes.slice(0, -1).some(({ clear }) => clear)).toBe(false);
      expect(outcomes.every(({ fps, scale }) => fps === null && scale === 1)).toBe(true);
    }),
  );
});

it('goes back only to what fits, and keeps what fits if anything does', () => {
  fc.assert(
    fc.property(screens, (screen) => {
      const destination = of('message-attachment');
      const most = destination.maxBytes ?? 0;
      const outcomes = run(destination, screen);
      // A step too fine is taken back: what fitted before it is made again, nothing else is.
      const seen = new Set<string>();
      for (const one of outcomes) {
        if (seen.has(JSON.stringify(one))) expect(one.bytes).toBeLessThanOrEqual(most);
        seen.add(JSON.stringify(one));
      }
      expect(outcomes.length).toBeLessThan(30);
      const last = outcomes.at(-1) as Outcome;
      const coarsest = encode(screen, { codec: 'h264', crf: 38, fps: 10, scale: 0.667 });
      // Forecasts are off by what a screen differs from the usual one: it comes as near as the last rung goes.
      if (coarsest.bytes <= most * 0.8) expect(last.bytes).toBeLessThanOrEqual(most);
      // What it gave up it had to: the same without it, as coarse as is clear, is too large or was not clear.
      if (last.fps === null && last.scale === 1 && last.clear) expect(last.bytes).toBeLessThanOrEqual(most);
    }),
  );
});

it('is over within eight attempts for nearly every screen', () => {
  const destination = of('message-attachment');
  const some = fc.sample(screens, { numRuns: 400, seed: 19 });
  const quick = some.filter((screen) => run(destination, screen).length <= 8);
  expect(quick.length / some.length).toBeGreaterThan(0.95);
});

it('gives up frames before pixels, and pixels before players that know no AV1', () => {
  const screen: Screen = { bytes: 4_000_000, halving: 9, perFps: 0.32, perPixel: 0.2, av1: 0.45, clearTo: 0 };
  const both = of('message-attachment', {
    video: { ...of('message-attachment').video, codecs: ['h264', 'av1'] },
  });
  const seen = (bytes: number, destination = both) => {
    const last = run(destination, { ...screen, bytes }).at(-1);
    return `${last?.codec} ${last?.fps} ${last?.scale} ${last?.clear}`;
  };
  expect(seen(1_500_000)).toBe('h264 null 1 true');
  expect(seen(2_200_000)).toBe('h264 15 1 true');
  expect(seen(2_500_000)).toBe('h264 10 1 true');
  expect(seen(2_750_000)).toBe('h264 10 0.8 true');
  expect(seen(4_600_000)).toBe('av1 15 1 true');
  // Where AV1 is not taken, text is given up last.
  expect(seen(9_000_000, of('message-attachment'))).toBe('h264 10 0.667 false');
});

it('leaves out what an attempt leaves out, and nothing else', () => {
  const destination = of('course-platform');
  expect(attempted(destination, firstAttempt(destination), SIZE).video).toEqual({
    ...destination.video,
    codecs: ['av1'],
  });
  const given = attempted(destination, { codec: 'h264', crf: 30, fps: 12, scale: 0.8 }, SIZE);
  expect(given.video.codecs).toEqual(['h264']);
  expect(given.video.frameRate).toEqual({ max: { num: 12, den: 1 }, constant: true });
  expect(given.video.box).toEqual({ width: 1024, height: 576 });
});

it('says before anything is made what a ceiling costs, or that nothing readable fits', () => {
  const destination = of('message-attachment');
  const said = (bytes: number, to = destination) => {
    const sampled: Outcome = { ...firstAttempt(to), bytes, otherBytes: 100_000, clear: true };
    return ceilingText(to, nextAttempt(to, RATE, [sampled]) ?? sampled, sampled, SIZE);
  };
  expect(said(1_900_000)).toBe(null);
  expect(said(50_000_000, { ...destination, maxBytes: null })).toBe(null);
  expect(said(2_200_000)).toMatch(/^CRF \d\d keeps the text clear within 2\.0 MB\.$/);
  expect(said(2_800_000)).toBe('The text stays clear within 2.0 MB at 15 fps.');
  expect(said(3_500_000)).toMatch(/^The text stays clear within 2\.0 MB at 10 fps and \d+ × \d+\.$/);
  expect(said(40_000_000)).toMatch(/^Nothing readable fits in 2\.0 MB: shorten the video, or choose /);
});

it('tells a size about what a sample came to: closely where all was encoded just so, never above a ceiling', () => {
  const outcome = (screen: Screen, crf: number) =>
    encode(screen, { ...firstAttempt(of('message-attachment')), crf });
  fc.assert(
    fc.property(screens, fc.boolean(), fc.boolean(), (screen, isWhole, isFiner) => {
      const sampled = { ...outcome(screen, 27), isWhole };
      const attempt = { ...firstAttempt(of('message-attachment')), crf: isFiner ? 24 : 27 };
      const { bytes, from, to } = expectedBySample(sampled, attempt, RATE, null);
      expect(isFiner ? bytes > sampled.bytes : bytes === sampled.bytes).toBe(true);
      expect(to / from).toBeCloseTo(isWhole && !isFiner ? 1.1 ** 2 : 1.26 ** 2, 2);
      const half = Math.round(bytes / 2);
      expect(expectedBySample(sampled, attempt, RATE, half)).toMatchObject({ bytes: half, to: half });
    }),
  );
});

it('begins as the destination says, as sampled where that fits, and where a sample does not fit with what is tried next', () => {
  fc.assert(
    fc.property(screens, fc.integer({ min: 100_000, max: 30_000_000 }), (screen, maxBytes) => {
      const destination = of('message-attachment', { maxBytes });
      const first = firstAttempt(destination);
      expect(beginningWith(destination, RATE, null)).toEqual(first);
      const sampled = encode(screen, first);
      const begun = beginningWith(destination, RATE, sampled);
      expect(begun).toEqual(
        sampled.clear && sampled.bytes <= maxBytes
          ? first
          : (nextAttempt(destination, RATE, [sampled]) ?? first),
      );
      // An attempt alone: what came of the sample is not what came of the encode.
      expect(begun).not.toHaveProperty('bytes');
    }),
  );
});
