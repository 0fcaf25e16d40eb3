'use client';

import { useSelector } from '@xstate/react';
import { useEffect, useRef, useState } from 'react';
import { SILENCE_DB } from '@/core/base/decibels';
import { TRACK_NAMES } from '@/core/recording/take';
import type { Session } from '@/recorder/session';

const BARS = 40;
const LOWEST_DB = -60;
const CLIPPING_DB = -1;

const HELD_MS = 1500;

/** The highest level of the last moments. */
function useHeld(db: number): number {
  const [held, setHeld] = useState({ db: SILENCE_DB, atMs: 0 });
  useEffect(() => {
    setHeld((old) => {
      const now = performance.now();
      return db >= old.db || now - old.atMs > HELD_MS ? { db, atMs: now } : old;
    });
  }, [db]);
  return held.db;
}

/** For how many whole seconds nothing was heard; null while something is. */
function useSilentS(db: number): number | null {
  const since = useRef<number | null>(null);
  if (db > LOWEST_DB) since.current = null;
  else since.current ??= performance.now();
  return since.current === null ? null : Math.floor((performance.now() - since.current) / 1000);
}

/** A sound's level in its track's colour; the last bars are too loud. */
export function Meter({ session, track }: { session: Session; track: 'voice' | 'app-sound' }) {
  const db = useSelector(session.actor, ({ context }) => context.figures?.levels[track] ?? SILENCE_DB);
  const heard = useSelector(session.actor, ({ context }) => context.figures?.heard[track]);
  const shareOf = (level: number) => Math.max(0, Math.min(1, (level - LOWEST_DB) / -LOWEST_DB));
  const share = shareOf(db);
  const held = useHeld(db);
  const silentS = useSilentS(db);
  const colour = track === 'voice' ? 'moss' : 'heron';
  const words =
    silentS !== null
      ? silentS < 3
        ? 'silent'
        : `silent for ${silentS} s`
      : heard && heard.clipped > 0 && db > CLIPPING_DB
        ? 'clips'
        : db > CLIPPING_DB
          ? 'too loud'
          : `${Math.round(db)} dBFS`;
  return (
    <div className="reed">
      <b style={{ color: `var(--${colour})` }}>{TRACK_NAMES[track]}</b>
      {/* biome-ignore lint/a11y/useSemanticElements: a meter element cannot be drawn as bars with a peak */}
      <svg
        width="100%"
        height="16"
        viewBox="0 0 200 16"
        preserveAspectRatio="none"
        role="meter"
        aria-label={`${TRACK_NAMES[track]} level`}
        aria-valuemin={LOWEST_DB}
        aria-valuemax={0}
        aria-valuenow={Math.round(Math.max(LOWEST_DB, db))}
        aria-valuetext={words}
      >
        {Array.from({ length: BARS }, (_, i) => {
          const lit = (i + 0.5) / BARS < share;
          const hot = i >= BARS - 3;
          const fill = lit ? (hot ? 'clay' : colour) : hot ? 'clay-soft' : 'sunken';
          // biome-ignore lint/suspicious/noArrayIndexKey: forty bars that never move
          return <rect key={i} x={i * 5} width="3.600" height="16" rx="1.500" fill={`var(--${fill})`} />;
        })}
        {held > LOWEST_DB && (
          <rect x={Math.max(0, shareOf(held) * 200 - 2)} width="2" height="16" fill="var(--ink)" />
        )}
      </svg>
      <span className="fig">
        {words.replace('-', '−')}
        {heard?.shortTermLufs != null && heard.shortTermLufs > LOWEST_DB && (
          <small className="mute"> {`3 s: ${Math.round(heard.shortTermLufs)} LUFS`.replace('-', '−')}</small>
        )}
      </span>
    </div>
  );
}
