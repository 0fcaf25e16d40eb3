'use client';

import { Button, Collapse, Skeleton } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { problemOf } from '@/core/base/problem';
import { nextWallTime, type ScheduledView, scheduleRefusal, wallTimeText } from '@/core/recording/schedule';
import type { Session } from '@/recorder/session';
import { useKeepingTo, type useScheduled } from './use-scheduled';

/** Comes when the schedule is opened. */
const TimeField = dynamic(() => import('../fields/time-field').then((m) => m.TimeField), {
  ssr: false,
  loading: () => <Skeleton.Input active />,
});

/** Takes that start and stop at times of day: a list that is saved with the lesson and followed while this page is open. */
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
  const panel = (
    <>
      <div className="times">
        <TimeField name="Start" value={start} onChange={setStart} />
        <TimeField name="Stop" value={end} onChange={setEnd} />
      </div>
      {start === '' && end !== '' ? (
        <Button disabled={stop !== null} onClick={now}>
          Record now, stop at {end}
        </Button>
      ) : (
        <Button disabled={start === ''} onClick={() => void add()}>
          {start ? `Schedule for ${start}` : 'Schedule'}
        </Button>
      )}
      {problem && (
        <p className="small amber" role="alert">
          {problem}
        </p>
      )}
      {stop && scheduled.list.some(({ state }) => state === 'waiting') && (
        <p className="small amber" role="alert">
          It could not start now: {stop}
        </p>
      )}
      <ScheduledList {...scheduled} />
      <p className="small mute">
        Keep this page open; the screen stays awake. If the machine sleeps at the start time, recording starts
        when it wakes, and the take says how late.
      </p>
    </>
  );
  return (
    <Collapse
      className="schedule"
      size="small"
      ghost
      activeKey={open || scheduled.list.length > 0 ? ['schedule'] : []}
      onChange={(keys) => setOpen(keys.length > 0)}
      items={[{ key: 'schedule', label: 'Schedule', children: panel }]}
    />
  );
}

/** What is still to come, and what could not start. */
export function ScheduledList({ list, change }: ReturnType<typeof useScheduled>) {
  if (list.length === 0) return null;
  return (
    <ul className="list" aria-label="Scheduled takes">
      {list.map(({ id, startAtMs, stopAtMs, state, problem }) => (
        <li key={id} className={state}>
          <span>
            <b>{dayAndTime(startAtMs)}</b>
            {stopAtMs !== null && ` to ${wallTimeText(stopAtMs)}`}
            {problem && <span className="small amber"> {problem}</span>}
          </span>
          <Button
            type="text"
            aria-label={`Remove ${wallTimeText(startAtMs)} from the list`}
            onClick={() => void change(id, { state: 'cancelled' })}
          >
            {state === 'waiting' ? 'Cancel' : 'Dismiss'}
          </Button>
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

/** What the countdown shows: the last minute in seconds, before that the time that is left. */
export function countdownText(leftS: number, startAtMs: number): string {
  if (leftS <= 60) return String(leftS);
  const [hours, minutes] = [Math.floor(leftS / 3600), Math.floor((leftS % 3600) / 60)];
  const two = (n: number) => String(n).padStart(2, '0');
  const left = `${hours > 0 ? `${hours}:${two(minutes)}` : minutes}:${two(leftS % 60)}`;
  return `${left} until ${wallTimeText(startAtMs)}`;
}
