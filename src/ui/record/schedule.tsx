'use client';

import { useId, useState } from 'react';
import { problemOf } from '@/core/problem';
import { nextWallTime, type ScheduledView, scheduleRefusal, wallTimeText } from '@/core/schedule';
import type { Session } from '@/recorder/session';
import { useKeepingTo, type useScheduled } from './use-scheduled';

/** Takes that begin and end at times of day: a list, kept with the lesson and kept to while this page is open. */
export function Schedule(props: {
  session: Session;
  scheduled: ReturnType<typeof useScheduled>;
  /** Why nothing can be recorded now; null when it can. */
  stop: string | null;
}) {
  const { session, scheduled, stop } = props;
  useKeepingTo(session, scheduled, stop);
  const [open, setOpen] = useState(false);
  const [start, setStart] = useState('');
  const [end, setEnd] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const add = async () => {
    setProblem(null);
    const startAtMs = nextWallTime(start, Date.now());
    const wanted = { startAtMs, stopAtMs: end ? nextWallTime(end, startAtMs) : null };
    const refusal = scheduleRefusal(wanted, scheduled.list, Date.now());
    if (refusal) return setProblem(`${refusal} Choose another time.`);
    try {
      await scheduled.add(wanted);
      setStart('');
      setEnd('');
    } catch (error) {
      const { message, hint } = problemOf(error);
      setProblem([message, hint].filter(Boolean).join(' '));
    }
  };
  const now = () =>
    session.actor.send({
      type: 'RECORD',
      startAtMs: Date.now(),
      stopAtMs: nextWallTime(end, Date.now()),
      scheduled: false,
    });
  return (
    <details
      className="schedule"
      open={open || scheduled.list.length > 0}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary>At a time of day</summary>
      <div className="times">
        <TimeField name="Start" value={start} onChange={setStart} />
        <TimeField name="Stop" value={end} onChange={setEnd} />
      </div>
      {start === '' && end !== '' ? (
        <button type="button" className="act" disabled={stop !== null} onClick={now}>
          Record now, stop then
        </button>
      ) : (
        <button type="button" className="act" disabled={start === ''} onClick={() => void add()}>
          {start ? `Arm for ${start}` : 'Arm'}
        </button>
      )}
      {problem && (
        <p className="small amber" role="alert">
          {problem}
        </p>
      )}
      {stop && scheduled.list.some(({ state }) => state === 'waiting') && (
        <p className="small amber" role="alert">
          As it is now it could not start: {stop}
        </p>
      )}
      <ScheduledList {...scheduled} />
      <p className="small mute">
        This page stays open and the screen is kept awake. If the machine sleeps over a start, recording
        begins when it wakes, and the take says how late.
      </p>
    </details>
  );
}

/** What is still to come, and what could not start. */
export function ScheduledList({ list, change }: ReturnType<typeof useScheduled>) {
  if (list.length === 0) return null;
  return (
    <ul className="scheduled" aria-label="Scheduled takes">
      {list.map(({ id, startAtMs, stopAtMs, state, problem }) => (
        <li key={id} className={state}>
          <span>
            <b>{dayAndTime(startAtMs)}</b>
            {stopAtMs !== null && ` to ${wallTimeText(stopAtMs)}`}
            {problem && <span className="small amber"> {problem}</span>}
          </span>
          <button
            type="button"
            className="act quiet"
            aria-label={`Take ${wallTimeText(startAtMs)} off the list`}
            onClick={() => void change(id, { state: 'cancelled' })}
          >
            {state === 'waiting' ? 'Cancel' : 'Seen'}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The time of day, with the day where it is not today's. */
function dayAndTime(atMs: ScheduledView['startAtMs']): string {
  const day = new Date(atMs).toDateString();
  return day === new Date().toDateString()
    ? wallTimeText(atMs)
    : `${new Date(atMs).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })}, ${wallTimeText(atMs)}`;
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
