'use client';

import { useSelector } from '@xstate/react';
import { useId, useState } from 'react';
import { nextWallTime, wallTimeText } from '@/core/schedule';
import type { Session } from '@/recorder/session';

/** A take that begins, or ends, at a time of day. */
export function Schedule({ session, ready }: { session: Session; ready: boolean }) {
  const { actor } = session;
  const armed = useSelector(actor, (state) => state.matches('armed'));
  const [start, setStart] = useState('');
  const [stop, setStop] = useState('');
  const arm = () => {
    const startAtMs = start ? nextWallTime(start, Date.now()) : Date.now();
    const stopAtMs = stop ? nextWallTime(stop, startAtMs) : null;
    actor.send({ type: 'RECORD', startAtMs, stopAtMs, scheduled: start !== '' });
  };
  return (
    <details className="schedule">
      <summary>At a time of day</summary>
      <div className="times">
        <TimeField name="Start" value={start} onChange={setStart} />
        <TimeField name="Stop" value={stop} onChange={setStop} />
      </div>
      <button
        type="button"
        className="act"
        disabled={!armed || !ready || (start === '' && stop === '')}
        onClick={arm}
      >
        {start ? `Arm for ${start}` : 'Record now, stop then'}
      </button>
      <p className="small mute">
        The page stays open and the screen is kept awake. If the machine sleeps over the start, recording
        begins when it wakes, and the take says how late.
      </p>
    </details>
  );
}

function TimeField(props: { name: string; value: string; onChange: (time: string) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id}>{props.name}</label>
      <input
        id={id}
        className="text-field"
        type="time"
        step="1"
        value={props.value}
        onChange={({ target }) => props.onChange(target.value)}
      />
    </>
  );
}

/** What the countdown shows: the last minute in seconds, before that the time that is left. */
export function countdownText(leftS: number, startAtMs: number): string {
  if (leftS <= 60) return String(leftS);
  const [hours, minutes] = [Math.floor(leftS / 3600), Math.floor((leftS % 3600) / 60)];
  const two = (n: number) => String(n).padStart(2, '0');
  const left = `${hours > 0 ? `${hours}:${two(minutes)}` : minutes}:${two(leftS % 60)}`;
  return `${left} until ${wallTimeText(startAtMs)}`;
}
