'use client';

import { useSelector } from '@xstate/react';
import { Button, Flex } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { bytesText, clockText } from '@/core/base/figures';
import { isRealTime, type Rig } from '@/core/rig/rig';
import { speedText } from '@/core/rig/rig-choices';
import type { Figures } from '@/recorder/messages';
import type { Session } from '@/recorder/session';
import { Key } from '../keys/key';
import { useAction } from '../keys/use-action';
import { useRoom } from '../lesson/lesson-room';
import { Meter } from '../lesson/meter';
import { StartOver } from './start-over';
import { type Talk, useTalk } from './use-talk';

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
  const voice = useTalk(session, rig.voice?.talk === 'push', muted);
  const [marks, mark] = useMarks(session, taking);
  const state = taking ? 'taking' : snapshot.matches('countdown') ? 'countdown' : 'idle';
  const act: DeckActs = {
    record: () => actor.send({ type: 'RECORD', startAtMs: Date.now() + rig.countdownS * 1000 }),
    now: () => actor.send({ type: 'NOW' }),
    stop: () => actor.send({ type: 'STOP' }),
    cancel: () => actor.send({ type: 'CANCEL' }),
    togglePause: () => actor.send({ type: paused ? 'RESUME' : 'PAUSE' }),
    toggleMute: () => actor.send({ type: 'MUTE', muted: !muted }),
  };
  const canRecord = ready && snapshot.matches('armed');
  useAction('record.start', act.record, { enabled: canRecord });
  useAction('record.stop', act.stop, { enabled: taking });
  useAction('record.pause', act.togglePause, { enabled: taking });
  useAction('record.mark', mark, { enabled: taking && !paused });
  useAction('record.mute', voice.push ? () => voice.talk(true) : act.toggleMute, {
    enabled: voice.push || (taking && rig.voice !== null),
    released: voice.push ? () => voice.talk(false) : undefined,
  });
  useAction('record.cancel', act.cancel, { enabled: state === 'countdown' });
  return (
    <footer className="deck">
      <Flex className="deck-in" align="center" gap={18}>
        <MainButton {...{ state, act, canRecord }} />
        <Flex className="pair" vertical gap={7}>
          {state === 'countdown' ? (
            <Button onClick={act.cancel}>
              Cancel <Key of="record.cancel" />
            </Button>
          ) : (
            <PauseAndMute {...{ act, voice, taking, paused, muted }} hasVoice={rig.voice !== null} />
          )}
        </Flex>
        <Flex vertical gap={2} style={{ width: 148 }}>
          <Button size="large" disabled={!taking || paused} onClick={mark}>
            Mark <Key of="record.mark" />
          </Button>
          <span className="small mute">{marks === 0 ? 'a stumble or a chapter' : `${marks} so far`}</span>
        </Flex>
        <Clock rig={rig} figures={taking ? figures : null} />
        <div className="meters grow">
          {rig.voice && <Meter session={session} track="voice" />}
          {rig.appSound && <Meter session={session} track="app-sound" />}
        </div>
        <StartOver disabled={!taking} onHeld={() => actor.send({ type: 'DISCARD' })} />
      </Flex>
    </footer>
  );
}

type DeckActs = Record<'record' | 'now' | 'stop' | 'cancel' | 'togglePause' | 'toggleMute', () => void>;

/** How many instants of this take were marked, and marking one more. */
function useMarks(session: Session, taking: boolean): [marks: number, mark: () => void] {
  const [marks, setMarks] = useState(0);
  useEffect(() => {
    if (!taking) setMarks(0);
  }, [taking]);
  const mark = () => {
    session.mark();
    setMarks((count) => count + 1);
  };
  return [marks, mark];
}

/** Record, Start now or Stop, always in the same place. */
function MainButton(props: { state: 'idle' | 'countdown' | 'taking'; act: DeckActs; canRecord: boolean }) {
  const { state, act, canRecord } = props;
  const pressedMs = useRef(0);
  const record = () => {
    pressedMs.current = performance.now();
    act.record();
  };
  // The button that skips the countdown lies where Record was: a double click means the first.
  const skipCountdown = () => {
    if (performance.now() - pressedMs.current > DOUBLE_CLICK_MS) act.now();
  };
  if (state === 'taking')
    return (
      <Button className="big stop" danger type="primary" onClick={act.stop}>
        <Sign round={false} />
        Stop <Key of="record.stop" />
      </Button>
    );
  if (state === 'countdown')
    return (
      <Button className="big" type="primary" onClick={skipCountdown}>
        Start now
      </Button>
    );
  return (
    <Button className="big" type="primary" disabled={!canRecord} onClick={record}>
      <Sign round />
      Record <Key of="record.start" />
    </Button>
  );
}

/** Round for what records, square for what stops it. */
const Sign = ({ round }: { round: boolean }) => (
  <svg width="20" height="20" aria-hidden="true">
    <rect width="20" height="20" rx={round ? 10 : 4} fill="currentColor" />
  </svg>
);

function PauseAndMute(props: {
  act: DeckActs;
  voice: Talk;
  taking: boolean;
  paused: boolean;
  muted: boolean;
  hasVoice: boolean;
}) {
  const { act, voice, taking, paused, muted } = props;
  return (
    <>
      <Button disabled={!taking} onClick={act.togglePause}>
        {paused ? 'Resume' : 'Pause'} <Key of="record.pause" />
      </Button>
      {voice.push ? (
        <Button
          aria-pressed={!muted}
          onPointerDown={() => voice.talk(true)}
          onPointerUp={() => voice.talk(false)}
          onPointerLeave={voice.release}
        >
          {muted ? 'Hold to talk' : 'Talking'} <Key of="record.mute" />
        </Button>
      ) : (
        <Button disabled={!taking || !props.hasVoice} aria-pressed={muted} onClick={act.toggleMute}>
          {muted ? 'Unmute' : 'Mute'} <Key of="record.mute" />
        </Button>
      )}
    </>
  );
}

/** How long the take is, how large, and how much is left of its limit. @param figures null while nothing is recorded */
function Clock({ rig, figures }: { rig: Rig; figures: Figures | null }) {
  const { lengthS } = rig.limits;
  const elapsedUs = figures?.elapsedUs ?? 0;
  return (
    <div style={{ minWidth: 128 }}>
      <div className="clock" role="timer" aria-label="Recorded">
        {clockText(elapsedUs)}
      </div>
      <div className="small mute">
        {bytesText(figures?.bytes ?? 0)}
        {!isRealTime(rig.picture.speed) && `, ${speedText(rig.picture.speed)}`}
        {lengthS !== null && `, ${clockText(Math.max(0, lengthS * 1e6 - elapsedUs))} left`}
      </div>
    </div>
  );
}
