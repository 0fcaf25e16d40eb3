import { expect, it } from 'vitest';
import type { Problem } from '@/core/base/problem';
import { liveVerdict, trackEnded } from './live-verdict';

type Snapshot = Parameters<typeof liveVerdict>[0];
const SCREEN = {
  askedFps: 30,
  arrivedFps: 30,
  achievedFps: 30,
  arrived: 900,
  dropped: 0,
  encodeP50Ms: 12,
  encodeP95Ms: 20,
};

/** A session in a state, with the figures of its screen. */
function session(state: string, screen: Partial<typeof SCREEN> = {}, context: object = {}): Snapshot {
  return {
    matches: (asked: unknown) =>
      typeof asked === 'object'
        ? `taking.${(asked as { taking: string }).taking}` === state
        : state.startsWith(`${asked}`),
    context: {
      problem: null,
      scheduled: false,
      startAtMs: 0,
      endedBy: null,
      figures: { elapsedUs: 30_000_000, roomS: null, video: { screen: { ...SCREEN, ...screen } } },
      ...context,
    },
  } as unknown as Snapshot;
}
const FREE = { limits: { lengthS: null }, plannedLengthS: null };
const missing: Problem = { code: 'gone', message: 'The camera is unplugged.', hint: 'Plug it in.' };

it('says that a take is about to end before anything else but a missing track', () => {
  const ending = { limits: { lengthS: 32 }, plannedLengthS: null };
  const slow = { dropped: 40 };
  expect(liveVerdict(session('taking', slow), undefined, [], ending)).toEqual({
    kind: 'warn',
    sentence: 'The take ends automatically in 0:02.',
    detail: 'Its limit is 32 s. 40 frames dropped.',
  });
  expect(
    liveVerdict(session('taking', slow), undefined, [{ role: 'camera', problem: missing }], ending).sentence,
  ).toBe('Camera: The camera is unplugged.');
});

it('warns of dropped frames from half a percent on, and names few without a warning', () => {
  const at = (dropped: number) => liveVerdict(session('taking', { dropped }), undefined, [], FREE);
  expect(at(0)).toMatchObject({ kind: 'good', sentence: 'Recording. No dropped frames.' });
  expect(at(1)).toMatchObject({ kind: 'good', sentence: 'Recording. 1 frame dropped.' });
  expect(at(4)).toMatchObject({ kind: 'good', sentence: 'Recording. 4 frames dropped.' });
  expect(at(5)).toMatchObject({
    kind: 'warn',
    sentence: 'The encoder is too slow: 5 frames dropped so far.',
  });
});

it('tells a source that gives fewer frames from a machine that is too slow', () => {
  const still = liveVerdict(session('taking', { arrivedFps: 9, achievedFps: 9 }), undefined, [], FREE);
  expect(still.detail).toContain('the source gives 9 fps, target 30 fps');
  const behind = liveVerdict(session('taking', { arrivedFps: 30, achievedFps: 22 }), undefined, [], FREE);
  expect(behind.detail).toContain('22 fps, target 30 fps');
});

it('warns of a full disk in time, counts down a planned length, and is silent about it before', () => {
  const figures = { elapsedUs: 1e6, roomS: 300, video: { screen: SCREEN } };
  expect(liveVerdict(session('taking', {}, { figures }), undefined, [], FREE)).toMatchObject({
    kind: 'warn',
    sentence: 'The browser’s storage is full in 5 min.',
  });
  const disk = (studio: { seconds: number; state: 'enough' | 'few' | 'none' }) =>
    liveVerdict(session('taking'), undefined, [], FREE, studio);
  expect(disk({ seconds: 300, state: 'few' })).toMatchObject({
    kind: 'warn',
    sentence: 'The studio’s disk is full in 5 min.',
  });
  expect(disk({ seconds: 0, state: 'none' }).sentence).toBe('The studio’s disk is full.');
  expect(disk({ seconds: 3600, state: 'enough' }).kind).toBe('good');
  const planned = (plannedLengthS: number) =>
    liveVerdict(session('taking'), undefined, [], { limits: { lengthS: null }, plannedLengthS }).detail;
  expect(planned(32)).toContain('0:02 left of the planned length');
  expect(planned(20)).toContain('longer than planned');
  expect(planned(600)).not.toContain('planned');
});

it('is ready, or says what preflight found, before it records', () => {
  const armed = session('armed');
  expect(liveVerdict(armed, undefined, [], FREE).sentence).toBe('Ready to record.');
  const finding = { id: 'x', weight: 'warn', sentence: 'Text will look softer.', about: 'screen' } as const;
  expect(liveVerdict(armed, finding, [], FREE)).toMatchObject({ kind: 'warn', sentence: finding.sentence });
  expect(liveVerdict(armed, { ...finding, weight: 'note' }, [], FREE).sentence).toBe('Ready to record.');
  expect(liveVerdict(session('armed', {}, { problem: missing }), undefined, [], FREE).kind).toBe('stop');
});

it('says that a paused take is paused, unless a track is away', () => {
  const paused = session('taking.paused', { dropped: 9 });
  expect(liveVerdict(paused, undefined, [], FREE)).toEqual({
    kind: 'good',
    sentence: 'Paused.',
    detail: 'Nothing is recorded until you resume. 9 frames dropped.',
  });
  const away = [{ role: 'voice' as const, problem: missing }];
  expect(liveVerdict(paused, undefined, away, FREE).kind).toBe('warn');
});

it('says from the start how a take will end', () => {
  const limited = { limits: { lengthS: 90 }, plannedLengthS: null };
  expect(liveVerdict(session('armed'), undefined, [], limited)).toEqual({
    kind: 'good',
    sentence: 'Ready to record.',
    detail: 'The take ends automatically after 1 min 30 s.',
  });
  expect(liveVerdict(session('armed'), undefined, [], FREE).detail).toBeUndefined();
});

it('says of a take of sound alone that it is recorded, and nothing of frames', () => {
  const figures = { elapsedUs: 30_000_000, roomS: null, video: {} };
  expect(liveVerdict(session('taking.recording', {}, { figures }), undefined, [], FREE)).toEqual({
    kind: 'good',
    sentence: 'Recording.',
    detail: undefined,
  });
  const ending = { limits: { lengthS: 32 }, plannedLengthS: null };
  expect(liveVerdict(session('taking.recording', {}, { figures }), undefined, [], ending).detail).toBe(
    'Its limit is 32 s.',
  );
});

it('says of a track that the recorder gave up why, and that the others continue', () => {
  const gone = [{ role: 'screen' as const, problem: trackEnded('The encoder failed.') }];
  expect(liveVerdict(session('taking.recording'), undefined, gone, FREE)).toEqual({
    kind: 'warn',
    sentence: 'Screen: No longer recorded. The encoder failed.',
    detail: 'The other tracks continue. Stop to keep what was recorded, and record again.',
  });
});
