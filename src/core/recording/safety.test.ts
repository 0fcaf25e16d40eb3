import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { roomFor, roomText } from '../base/free-space';
import { trackGaps } from './gaps';
import { addLedgers } from './ledger';
import type { FrameLedger } from './take';
import { nextPieceBytes } from './upload';

describe('what is told of a take and of the room for it', () => {
  it('gaps and segments together fill a take, each gap longer than a breath between segments', () => {
    const lengths = fc.array(
      fc.record({ away: fc.integer({ min: 0, max: 900_000 }), there: fc.integer({ min: 1, max: 900_000 }) }),
      { minLength: 1, maxLength: 8 },
    );
    fc.assert(
      fc.property(lengths, fc.integer({ min: 0, max: 900_000 }), (all, tail) => {
        let clock = 0;
        const segments = all.map(({ away, there }) => {
          const startUs = clock + away;
          clock = startUs + there;
          return { track: 'camera' as const, startUs, endUs: clock };
        });
        const away = [...all.map((each) => each.away), tail].filter((us) => us > 150_000);
        const gaps = trackGaps([...segments].reverse(), clock + tail);
        expect(gaps.map(({ fromUs, toUs }) => toUs - fromUs)).toEqual(away);
      }),
    );
  });
  it('ledgers of a source that came back add up, and unknown loss stays unknown', () => {
    const one: FrameLedger = {
      askedFps: 30,
      arrived: 10,
      encoded: 7,
      repeated: 1,
      skipped: 2,
      dropped: 1,
      lostBefore: 3,
      encodeP50Ms: 5,
      encodeP95Ms: 9,
    };
    expect(addLedgers(one, { ...one, encodeP95Ms: 30 })).toMatchObject({
      arrived: 20,
      encoded: 14,
      lostBefore: 6,
      encodeP95Ms: 30,
    });
    expect(addLedgers(one, { ...one, lostBefore: null }).lostBefore).toBeNull();
  });
  it('room ends while there is still enough to close the files, never later at a higher rate', () => {
    expect(roomFor(24_000_000, 600_000)).toEqual({ seconds: 0, state: 'none' });
    expect(roomText(roomFor(24_000_000 + 3600 * 600_000, 600_000))).toBe('1 h 0 min');
    fc.assert(
      fc.property(fc.nat(1e10), fc.nat(1e7), fc.nat(1e7), (free, a, b) => {
        const [slow, fast] = [Math.min(a, b), Math.max(a, b)];
        expect(roomFor(free, fast).seconds).toBeLessThanOrEqual(roomFor(free, slow).seconds);
      }),
    );
  });
  it('pieces of an upload take about two seconds on any line, within their bounds', () => {
    expect(nextPieceBytes(1_000_000, 1000)).toBe(2_000_000);
    expect(nextPieceBytes(4_000_000, 60_000)).toBe(256 * 1024);
    expect(nextPieceBytes(32_000_000, 10)).toBe(32 * 1024 * 1024);
  });
});
