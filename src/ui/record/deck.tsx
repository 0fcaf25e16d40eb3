'use client';

import { useSelector } from '@xstate/react';
import { Button, Flex } from 'antd';
import { useCallback, useEffect, useRef, useState } from 'react';
import { bytesText, clockText } from '@/core/base/figures';
import { isRealTime } from '@/core/rig/rig';
import { speedText } from '@/core/rig/rig-choices';
import type { Session } from '@/recorder/session';
import { Key } from '../keys/key';
import { useAction } from '../keys/use-action';
import { useRoom } from '../lesson/lesson-room';
import { Meter } from '../lesson/meter';

const HOLD_MS = 2000;
/** Two clicks within this time are one. */
const DOUBLE_CLICK_MS = 700;

/** The one deck of controls: record and stop, pause, mute, the clock, two meters, starting over. */
export function Deck({ session, ready }: { session: Session; ready: boolean }) {
  const { rig } = useRoom();
  const { actor } = session;
  const snapshot = useSelector(actor, (state) => state);
  const { figures, muted } = snapshot.context;
  const taking = snapshot.matches('taking');
  const paused = snapshot.matches({ taking: 'paused' });
  const { lengthS } = rig.limits;
  const leftUs = lengthS === null ? null : lengthS * 1e6 - (taking ? (figures?.elapsedUs ?? 0) : 0);
  const pressedMs = useRef(0);
  const record = () => {
    pressedMs.current = performance.now();
    actor.send({ type: 'RECORD', startAtMs: Date.now() + rig.countdownS * 1000 });
  };
  // The button that skips the countdown lies where Record was: a double click means the first.
  const skipCountdown = () => {
    if (performance.now() - pressedMs.current > DOUBLE_CLICK_MS) actor.send({ type: 'NOW' });
  };
  const togglePause = () => actor.send({ type: paused ? 'RESUME' : 'PAUSE' });
  const [marks, setMarks] = useState(0);
  const mark = () => {
    session.mark();
    setMarks((count) => count + 1);
  };
  useEffect(() => {
    if (!taking) setMarks(0);
  }, [taking]);
  const toggleMute = () => actor.send({ type: 'MUTE', muted: !muted });

  const push = rig.voice?.talk === 'push';
  const holding = useRef(false);
  const talk = useCallback(
    (heard: boolean) => {
      holding.current = heard;
      actor.send({ type: 'MUTE', muted: !heard });
    },
    [actor],
  );
  // A voice that is heard only while it is asked for is silent from the first instant on.
  useEffect(() => {
    if (push && !muted && !holding.current) talk(false);
  }, [push, muted, talk]);
  useEffect(() => {
    if (!push) return;
    // A key that is let go in another window is never seen to go up.
    const onBlur = () => talk(false);
    window.addEventListener('blur', onBlur);
    return () => window.removeEventListener('blur', onBlur);
  }, [push, talk]);

  useAction('record.start', record, { enabled: ready && snapshot.matches('armed') });
  useAction('record.stop', () => actor.send({ type: 'STOP' }), { enabled: taking });
  useAction('record.pause', togglePause, { enabled: taking });
  useAction('record.mark', mark, { enabled: taking && !paused });
  useAction('record.mute', push ? () => talk(true) : toggleMute, {
    enabled: push || (taking && rig.voice !== null),
    released: push ? () => talk(false) : undefined,
  });
  useAction('record.cancel', () => actor.send({ type: 'CANCEL' }), {
    enabled: snapshot.matches('countdown'),
  });

  return (
    <footer className="deck">
      <Flex className="deck-in" align="center" gap={18}>
        {taking ? (
          <Button className="big stop" danger type="primary" onClick={() => actor.send({ type: 'STOP' })}>
            <Sign round={false} />
            Stop <Key of="record.stop" />
          </Button>
        ) : snapshot.matches('countdown') ? (
          <Button className="big" type="primary" onClick={skipCountdown}>
            Start now
          </Button>
        ) : (
          <Button
            className="big"
            type="primary"
            disabled={!snapshot.matches('armed') || !ready}
            onClick={record}
          >
            <Sign round />
            Record <Key of="record.start" />
          </Button>
        )}
        <Flex className="pair" vertical gap={7}>
          {snapshot.matches('countdown') ? (
            <Button onClick={() => actor.send({ type: 'CANCEL' })}>
              Cancel <Key of="record.cancel" />
            </Button>
          ) : (
            <>
              <Button disabled={!taking} onClick={togglePause}>
                {paused ? 'Resume' : 'Pause'} <Key of="record.pause" />
              </Button>
              {push ? (
                <Button
                  aria-pressed={!muted}
                  onPointerDown={() => talk(true)}
                  onPointerUp={() => talk(false)}
                  onPointerLeave={() => holding.current && talk(false)}
                >
                  {muted ? 'Hold to talk' : 'Talking'} <Key of="record.mute" />
                </Button>
              ) : (
                <Button disabled={!taking || !rig.voice} aria-pressed={muted} onClick={toggleMute}>
                  {muted ? 'Unmute' : 'Mute'} <Key of="record.mute" />
                </Button>
              )}
            </>
          )}
        </Flex>
        <Flex vertical gap={2} style={{ width: 148 }}>
          <Button size="large" disabled={!taking || paused} onClick={mark}>
            Mark <Key of="record.mark" />
          </Button>
          <span className="small mute">{marks === 0 ? 'a stumble or a chapter' : `${marks} so far`}</span>
        </Flex>
        <div style={{ minWidth: 128 }}>
          <div className="clock" role="timer" aria-label="Recorded">
            {clockText(taking ? (figures?.elapsedUs ?? 0) : 0)}
          </div>
          <div className="small mute">
            {bytesText(taking ? (figures?.bytes ?? 0) : 0)}
            {!isRealTime(rig.picture.speed) && `, ${speedText(rig.picture.speed)}`}
            {leftUs !== null && `, ${clockText(Math.max(0, leftUs))} left`}
          </div>
        </div>
        <div className="meters grow">
          {rig.voice && <Meter session={session} track="voice" />}
          {rig.appSound && <Meter session={session} track="app-sound" />}
        </div>
        <StartOver disabled={!taking} onHeld={() => actor.send({ type: 'DISCARD' })} />
      </Flex>
    </footer>
  );
}

/** Round for what records, square for what stops it. */
const Sign = ({ round }: { round: boolean }) => (
  <svg width="20" height="20" aria-hidden="true">
    <rect width="20" height="20" rx={round ? 10 : 4} fill="currentColor" />
  </svg>
);

/** Discards the take and arms again. Must be held, by pointer or key, so that nobody does it by mistake. */
function StartOver({ disabled, onHeld }: { disabled: boolean; onHeld: () => void }) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const begin = () => {
    if (disabled || holding) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      setHolding(false);
      onHeld();
    }, HOLD_MS);
  };
  const end = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  return (
    <Button
      type="dashed"
      className={holding ? 'guard holding' : 'guard'}
      disabled={disabled}
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && begin()}
      onKeyUp={end}
      onBlur={end}
    >
      <b>Start over</b>
      <span>hold for 2 s</span>
    </Button>
  );
}
