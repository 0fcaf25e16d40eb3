'use client';

import { useSelector } from '@xstate/react';
import { Alert, Col, Flex, Row } from 'antd';
import dynamic from 'next/dynamic';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { StepId } from '@/core/base/ids';
import type { MediaRole } from '@/recorder/messages';
import type { Session } from '@/recorder/session';
import { useRoom, useSourceStates } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { ButtonLink } from '../page/button-link';
import { SmallScreen } from '../page/small-screen';
import { Verdict } from '../page/verdict';
import { LeaveGuard } from '../recording/leave-guard';
import { RecordingIcon } from '../recording/recording-icon';
import { useMostBytesPerSecond, useRoomLeft } from '../set-up/free-space';
import { OpeningSources } from '../set-up/opening-sources';
import { useFindings } from '../set-up/use-facts';
import { BeforeYouRecord } from './before-you-record';
import { Deck } from './deck';
import { FrameFigures } from './frame-figures';
import { liveVerdict, trackEnded } from './live-verdict';
import { notRecorded, openingOf } from './not-recorded';
import { countdownText, Schedule } from './schedule';
import { useScheduled } from './use-scheduled';
import { useWakeLock } from './use-wake-lock';

const TakesList = dynamic(() => import('../take/takes-list').then((m) => m.TakesList), { ssr: false });

/** Record: the picture large and uncovered, one deck of controls, the figures beside it. */
export function RecordStage() {
  const { session } = useRoom();
  return session ? <Recording session={session} /> : <OpeningSources />;
}

function Recording({ session }: { session: Session }) {
  const { lesson, rig } = useRoom();
  const [finding] = useFindings();
  const again = useStepAgain();
  const snapshot = useSelector(session.actor, (state) => state);
  const { context } = snapshot;
  const taking = snapshot.matches('taking');
  const busy =
    taking || snapshot.matches('starting') || snapshot.matches('stopping') || snapshot.matches('discarding');
  const scheduled = useScheduled(lesson.id);
  const stop = finding?.weight === 'stop' ? finding.sentence : null;
  // A list that is kept to stays where it is while the take before it is being closed.
  const waits = !taking || scheduled.list.length > 0;
  const isAwaited = scheduled.list.some(({ state }) => state === 'waiting');
  useWakeLock(busy || snapshot.matches('countdown') || isAwaited);

  const stopAndGo = useAfterStop(session, isAwaited, again?.id ?? null);
  const states = useSourceStates(session);
  const away = notRecorded(states);
  const given = Object.entries(context.figures?.failed ?? {}).map(([role, why]) => ({
    role: role as MediaRole,
    problem: trackEnded(why),
  }));
  // A take goes to the studio while it is recorded: its disk is watched as well.
  const { server } = useRoomLeft(useMostBytesPerSecond());
  const verdict = liveVerdict(snapshot, finding, [...away, ...given], rig, server);
  return (
    <>
      <LeaveGuard busy={busy} stopAndGo={stopAndGo} />
      <main className="recording" data-opening={openingOf(states).join(' ') || undefined}>
        <Verdict kind={verdict.kind} sentence={verdict.sentence} detail={verdict.detail}>
          {snapshot.matches('armed') && <ButtonLink href={`/lessons/${lesson.id}/set-up`}>Set up</ButtonLink>}
          {taking && <RecordingSign paused={snapshot.matches({ taking: 'paused' })} />}
        </Verdict>
        <SmallScreen stage="Record" />
        {again && (
          <Alert
            type="info"
            showIcon
            style={{ marginTop: 10 }}
            title={`You are recording “${again.title}” again. After Stop, the new take replaces it in the cut.`}
            action={<ButtonLink href={`/lessons/${lesson.id}/edit`}>Keep the old one</ButtonLink>}
          />
        )}
        <Row gutter={[20, 14]} style={{ marginTop: 12 }}>
          <Col className="stack" xs={{ flex: '100%' }} md={{ flex: '1 1 0' }}>
            <LivePicture>
              {snapshot.matches('countdown') && (
                <Flex
                  className="over countdown"
                  align="center"
                  justify="center"
                  role="timer"
                  aria-live="assertive"
                >
                  {countdownText(context.left, context.startAtMs)}
                </Flex>
              )}
            </LivePicture>
            {snapshot.matches('armed') && <TakesList lesson={lesson.id} />}
          </Col>
          <Col className="stack" xs={{ flex: '100%' }} md={{ flex: '292px' }}>
            {waits && <Schedule session={session} scheduled={scheduled} stop={stop} />}
            {snapshot.matches('armed') && <BeforeYouRecord />}
            <FrameFigures session={session} />
          </Col>
        </Row>
      </main>
      <Deck session={session} ready={finding?.weight !== 'stop'} />
    </>
  );
}

/** The step that is recorded again, where Edit sent somebody here for one. */
function useStepAgain(): { id: StepId; title: string } | null {
  const params = useSearchParams();
  const id = StepId.safeParse(params?.get('step'));
  return id.success ? { id: id.data, title: params?.get('title') ?? 'A step' } : null;
}

function RecordingSign({ paused }: { paused: boolean }) {
  return (
    <span className="row clay fig">
      <RecordingIcon paused={paused} />
      {paused ? 'Paused' : 'Recording'}
    </span>
  );
}

/**
 * Goes where the rig says when a take has ended, or where somebody wanted to go who has chosen to stop first.
 * @param isAwaited whoever waits for the next take of a list stays here
 * @param step that is recorded again: Edit puts the take in its place
 * @returns stops the take and goes on after it
 */
function useAfterStop(session: Session, isAwaited: boolean, step: StepId | null): (go: () => void) => void {
  const { lesson, rig, leaves } = useRoom();
  const router = useRouter();
  const stoppedTake = useSelector(session.actor, (state) =>
    state.matches('stopped') ? state.context.takeId : null,
  );
  const goAfterStop = useRef<(() => void) | null>(null);
  const { afterStop } = rig;
  useEffect(() => {
    if (!stoppedTake) return;
    leaves('set-up');
    leaves('record');
    if (goAfterStop.current) {
      session.actor.send({ type: 'AGAIN' });
      goAfterStop.current();
      goAfterStop.current = null;
      return;
    }
    if (afterStop === 'next-take' || isAwaited) session.actor.send({ type: 'AGAIN' });
    else if (step) router.push(`/lessons/${lesson.id}/edit?step=${step}&take=${stoppedTake}`);
    else if (afterStop === 'hand-over') router.push(`/lessons/${lesson.id}/hand-over?take=${stoppedTake}`);
    else router.push(`/takes/${stoppedTake}${afterStop === 'plain-video' ? '?then=plain' : ''}`);
  }, [stoppedTake, router, afterStop, isAwaited, session, lesson.id, leaves, step]);

  return (go) => {
    goAfterStop.current = go;
    session.actor.send({ type: 'STOP' });
  };
}
