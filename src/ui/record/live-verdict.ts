import type { SnapshotFrom } from 'xstate';
import { clockText } from '@/core/base/figures';
import { type Room, roomText } from '@/core/base/free-space';
import { lengthText } from '@/core/base/length';
import type { Problem } from '@/core/base/problem';
import type { Finding } from '@/core/findings/preflight';
import { isSeenLoss } from '@/core/recording/frame-outcome';
import { isNear, wallTimeText } from '@/core/recording/schedule';
import { TRACK_NAMES, type TrackKind } from '@/core/recording/take';
import { limitNote } from '@/core/rig/limits';
import type { Rig } from '@/core/rig/rig';
import type { VideoFigures } from '@/recorder/messages';
import type { sessionMachine } from '@/recorder/session-machine';
import type { VerdictKind } from '../page/verdict';

const FEW_S = 600;

type Snapshot = SnapshotFrom<ReturnType<typeof sessionMachine>>;

type LiveVerdict = { kind: VerdictKind; sentence: string; detail?: string };

/** The one sentence about a session, from its own figures. @param studio how long the studio's disk takes what is recorded */
export function liveVerdict(
  snapshot: Snapshot,
  finding: Finding | undefined,
  away: { role: TrackKind; problem: Problem }[],
  { limits, plannedLengthS }: Pick<Rig, 'limits' | 'plannedLengthS'>,
  studio: Room | null = null,
): LiveVerdict {
  const { context } = snapshot;
  if (context.problem && !snapshot.matches('countdown'))
    return { kind: 'stop', sentence: context.problem.message, detail: context.problem.hint };
  if (snapshot.matches('countdown'))
    return context.scheduled
      ? {
          kind: 'good',
          sentence: `Armed: recording starts at ${wallTimeText(context.startAtMs)}.`,
          detail: 'The page must stay open.',
        }
      : { kind: 'good', sentence: 'Get ready.', detail: 'Everything is armed.' };
  if (snapshot.matches('stopping'))
    return { kind: 'good', sentence: context.endedBy ?? 'Closing the files …' };
  if (snapshot.matches('discarding')) return { kind: 'good', sentence: 'Discarding the take …' };
  if (snapshot.matches('stopped'))
    return { kind: 'good', sentence: context.endedBy ?? 'Recorded.', detail: 'Opening the take …' };
  if (!snapshot.matches('taking')) {
    const ends = limitNote(limits);
    if (finding && finding.weight !== 'note')
      return {
        kind: finding.weight,
        sentence: finding.sentence,
        detail: [finding.advice, ends].filter(Boolean).join(' ') || undefined,
      };
    return { kind: 'good', sentence: 'Ready to record.', detail: ends };
  }
  /** What a take of sound alone says of its frames: nothing. */
  const screen = context.figures?.video.screen;
  const detail = screen
    ? `${rateText(screen)} · encode time ${screen.encodeP50Ms.toFixed(0)} of ${(1000 / screen.askedFps).toFixed(0)} ms`
    : '';
  // A track that is missing weighs more than frames that are.
  const [gone] = away;
  if (gone)
    return {
      kind: 'warn',
      sentence: `${TRACK_NAMES[gone.role]}: ${gone.problem.message}`,
      detail: gone.problem.hint,
    };
  const lost = screen ? droppedText(screen.dropped) : '';
  if (snapshot.matches({ taking: 'paused' }))
    return {
      kind: 'good',
      sentence: 'Paused.',
      detail: `Nothing is recorded until you resume. ${lost}`.trim(),
    };
  // Who is about to be interrupted must know it, whatever else there is to say.
  const elapsedS = (context.figures?.elapsedUs ?? 0) / 1e6;
  if (limits.lengthS !== null && isNear(limits.lengthS - elapsedS, limits.lengthS))
    return {
      kind: 'warn',
      sentence: `The take ends automatically in ${leftText(limits.lengthS, elapsedS)}.`,
      detail: `Its limit is ${lengthText(limits.lengthS)}. ${lost}`.trim(),
    };
  if (screen && isSeenLoss(screen.dropped, screen.arrived))
    return {
      kind: 'warn',
      sentence: `The encoder is too slow: ${screen.dropped} frames dropped so far.`,
      detail: `${detail}. A lower frame rate or a smaller picture would help next time.`,
    };
  const room = roomVerdict(context.figures?.roomS ?? null, studio);
  if (room) return room;
  const planned = plannedText(plannedLengthS, elapsedS);
  return { kind: 'good', sentence: `Recording. ${lost}`.trim(), detail: planned + detail || undefined };
}

/** Where the take goes, the browser's storage first, runs full before long. */
function roomVerdict(roomS: number | null, studio: Room | null): LiveVerdict | null {
  if (roomS !== null && roomS < FEW_S)
    return {
      kind: 'warn',
      sentence: `The browser’s storage is full in ${roomText({ seconds: roomS })}.`,
      detail: 'The take will end automatically, complete. Free some space on this disk.',
    };
  if (studio === null || studio.state === 'enough') return null;
  return {
    kind: 'warn',
    sentence:
      studio.state === 'none'
        ? 'The studio’s disk is full.'
        : `The studio’s disk is full in ${roomText(studio)}.`,
    detail:
      'Recording goes on: the take stays in this browser until the studio has room. Free some space on its disk.',
  };
}

const leftText = (lengthS: number, elapsedS: number) => clockText(Math.max(0, lengthS - elapsedS) * 1e6);

/** How a take stands to its planned length, near its end and after it. */
function plannedText(plannedS: number | null, elapsedS: number): string {
  if (plannedS === null || !isNear(plannedS - elapsedS, plannedS)) return '';
  return plannedS > elapsedS
    ? `${leftText(plannedS, elapsedS)} left of the planned length ·  `
    : 'longer than planned · ';
}

const droppedText = (dropped: number): string =>
  dropped === 0 ? 'No dropped frames.' : `${dropped} ${dropped === 1 ? 'frame' : 'frames'} dropped.`;

/** A track that the recorder could not go on with. @param why what failed last, as a sentence */
export const trackEnded = (why: string): Problem => ({
  code: 'track-ended',
  message: `No longer recorded. ${why}`,
  hint: 'The other tracks continue. Stop to keep what was recorded, and record again.',
});

/** A screen that stands still for a while gives fewer pictures than were asked for: that is no shortcoming. */
function rateText({ askedFps, arrivedFps, achievedFps }: VideoFigures): string {
  const asked = `target ${askedFps.toFixed(0)} fps`;
  return arrivedFps < askedFps - 1 && achievedFps >= arrivedFps - 1
    ? `the source gives ${arrivedFps.toFixed(0)} fps, ${asked}`
    : `${achievedFps.toFixed(0)} fps, ${asked}`;
}
