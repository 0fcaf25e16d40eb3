import fc from 'fast-check';
import { expect, it } from 'vitest';
import { envelopes } from '../../../tests/support/made-up';
import { newStepId, newTakeId } from '../base/ids';
import { type Cut, PLAIN_STEP, type Step } from './cut';
import { hold, join, moveEnd, remove, split } from './edits';
import { Envelope, envelopeBetween, envelopeDb, envelopeJoined, movedPoint, withPoint } from './envelope';

const LENGTH_US = 10_000_000;
const lengths = fc.integer({ min: 1, max: LENGTH_US });
const CLOSE_DB = 1e-3;

const stepWith = (voice: Envelope): Step => ({
  ...PLAIN_STEP,
  ...{ id: newStepId(), title: '', layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 } },
  pieces: [{ take: newTakeId(), inUs: 5_000_000, outUs: 5_000_000 + LENGTH_US }],
  envelopes: { voice, appSound: [] },
});
const cutOf = (step: Step): Cut => ({ version: 4, marks: [], steps: [step] });
const voiceOf = ({ steps }: Cut) => steps[0]?.envelopes.voice ?? [];

/** Times beside which an envelope leaps: a µs more or less decides there. */
const isBesideLeap = (points: Envelope, us: number) => points.some(({ atUs }) => Math.abs(atUs - us) <= 1);

it('is, at each of its points, as loud as that point says, and between two of them within theirs', () => {
  fc.assert(
    fc.property(envelopes(LENGTH_US), lengths, (points, us) => {
      const gains = points.map(({ gainDb }) => gainDb);
      const db = envelopeDb(points, us);
      expect(db).toBeGreaterThanOrEqual(Math.min(0, ...gains) - 1e-9);
      expect(db).toBeLessThanOrEqual(Math.max(0, ...gains) + 1e-9);
      for (const [i, point] of points.entries())
        if (points[i + 1]?.atUs !== point.atUs) expect(envelopeDb(points, point.atUs)).toBe(point.gainDb);
    }),
  );
});

it('is as loud everywhere after it was taken apart and put together, in as many points', () => {
  fc.assert(
    fc.property(envelopes(LENGTH_US), lengths, lengths, (points, atUs, us) => {
      fc.pre(atUs < LENGTH_US && !isBesideLeap(points, us));
      const first = envelopeBetween(points, 0, atUs);
      const second = envelopeBetween(points, atUs, LENGTH_US);
      const again = envelopeJoined(first, atUs, second, LENGTH_US - atUs);
      expect(Envelope.safeParse(again).success).toBe(true);
      expect(Math.abs(envelopeDb(again, us) - envelopeDb(points, us))).toBeLessThan(CLOSE_DB);
      expect(again.length).toBeLessThanOrEqual(points.length + 1);
    }),
  );
});

it('stays with its sounds when its step is split and joined, when a part is cut out, and when a picture is held', () => {
  fc.assert(
    fc.property(envelopes(LENGTH_US), fc.tuple(lengths, lengths), lengths, (points, [a, b], us) => {
      const [fromUs, toUs] = [Math.min(a, b), Math.max(a, b)];
      fc.pre(fromUs < toUs && toUs < LENGTH_US && us < LENGTH_US);
      fc.pre(![us, fromUs, toUs].some((each) => isBesideLeap(points, each)));
      const cut = cutOf(stepWith(points));
      const parted = split(cut, fromUs, newStepId());
      const joined = join(parted, parted.steps[1]?.id ?? newStepId());
      expect(Math.abs(envelopeDb(voiceOf(joined), us) - envelopeDb(points, us))).toBeLessThan(CLOSE_DB);

      const shorter = voiceOf(remove(cut, fromUs, toUs));
      if (us < fromUs - 1 || us > toUs + 1) {
        const nowUs = us < fromUs ? us : us - (toUs - fromUs);
        expect(Math.abs(envelopeDb(shorter, nowUs) - envelopeDb(points, us))).toBeLessThan(CLOSE_DB);
      }

      const held = voiceOf(hold(cut, fromUs, 700_000));
      if (Math.abs(us - fromUs) > 1) {
        const laterUs = us < fromUs ? us : us + 700_000;
        expect(Math.abs(envelopeDb(held, laterUs) - envelopeDb(points, us))).toBeLessThan(CLOSE_DB);
      }
    }),
  );
});

it('stays with its sounds when the step begins earlier or later in its take', () => {
  fc.assert(
    fc.property(
      envelopes(LENGTH_US),
      fc.integer({ min: -4_000_000, max: 4_000_000 }),
      lengths,
      (points, byUs, us) => {
        fc.pre(us - byUs > 1 && us < LENGTH_US && !isBesideLeap(points, us) && !isBesideLeap(points, byUs));
        const cut = cutOf(stepWith(points));
        const moved = moveEnd(cut, cut.steps[0]?.id ?? newStepId(), 'start', 5_000_000 + byUs, 60_000_000);
        expect(Math.abs(envelopeDb(voiceOf(moved), us - byUs) - envelopeDb(points, us))).toBeLessThan(
          CLOSE_DB,
        );
      },
    ),
  );
});

it('takes points in any order, and moves one no further than to its neighbours', () => {
  fc.assert(
    fc.property(
      fc.array(lengths, { maxLength: 20 }),
      fc.nat(25),
      fc.record({ atUs: fc.integer({ min: -1e9, max: 1e9 }), gainDb: fc.integer({ min: -200, max: 200 }) }),
      (times, index, to) => {
        const points = times.reduce<Envelope>((all, atUs) => withPoint(all, { atUs, gainDb: -6 }), []);
        expect(points.length).toBe(new Set(times).size);
        const moved = movedPoint(points, index, to, LENGTH_US);
        expect(moved.every(({ atUs }) => atUs <= LENGTH_US)).toBe(true);
        expect(Envelope.safeParse(moved).success).toBe(true);
        expect(moved.filter((point, i) => point !== points[i]).length).toBe(index < points.length ? 1 : 0);
      },
    ),
  );
});
