'use client';

import { useSelector } from '@xstate/react';
import { Button, Col, InputNumber, Row } from 'antd';
import { useState } from 'react';
import type { RehearsalId } from '@/core/base/ids';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { rehearsalVerdict } from '@/core/rehearsal/verdict';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { RehearsalProgress } from '@/recorder/rehearsal/rehearse';
import type { Session } from '@/recorder/session';
import { useRoom } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { useKeptRehearsal, useRehearsals } from '../lesson/use-rehearsals';
import { ButtonLink } from '../page/button-link';
import { SmallScreen } from '../page/small-screen';
import { Verdict } from '../page/verdict';
import { OpeningSources } from '../set-up/opening-sources';
import { useFindings } from '../set-up/use-facts';
import { Ledger } from './ledger';
import { NextStepCard } from './next-step-card';
import { RehearsalFrames } from './rehearsal-frames';

/** There is nothing to rehearse. */
const NO_FRAMES = {
  sentence: 'This rig records sound only: there are no frames to measure.',
  advice: 'Test the microphone in Set up instead.',
};

const LENGTHS = { least: 5, most: 60, first: 10 };

/** Rehearse: record for some seconds, see every frame of it, change one thing, and rehearse again. */
export function RehearseStage() {
  const { session } = useRoom();
  return session ? <Rehearsing session={session} /> : <OpeningSources />;
}

function Rehearsing({ session }: { session: Session }) {
  const { lesson, rig } = useRoom();
  const [finding] = useFindings();
  const [lengthS, setLengthS] = useState(LENGTHS.first);
  const [chosen, setChosen] = useState<RehearsalId | null>(null);
  const progress = useSelector(session.actor, ({ context }) => context.rehearsing);
  const problem = useSelector(session.actor, ({ context }) => context.problem);
  const armed = useSelector(session.actor, (state) => state.matches('armed'));
  const running = useSelector(session.actor, (state) => state.matches('rehearsing'));
  const latest = useKeptRehearsal(session);
  const list = useRehearsals();
  const shown = list?.find(({ id }) => id === chosen) ?? list?.[0] ?? null;
  const stopped = finding?.weight === 'stop' ? finding : isSoundOnly(rig) ? NO_FRAMES : null;
  const start = () => {
    setChosen(null);
    session.actor.send({ type: 'REHEARSE', lengthS });
  };
  const verdict = stageVerdict(running ? (progress ?? FIRST) : null, stopped, problem, shown, list !== null);
  return (
    <main className="rehearsing">
      <Verdict kind={verdict.kind} sentence={verdict.sentence} detail={verdict.detail}>
        {running ? (
          <Button onClick={() => session.actor.send({ type: 'ENOUGH' })}>Stop now</Button>
        ) : (
          <>
            {shown && (
              <ButtonLink href={`/lessons/${lesson.id}/record`}>
                {verdict.kind === 'good' ? 'Record' : 'Record anyway'}
              </ButtonLink>
            )}
            <InputNumber
              aria-label="Length"
              min={LENGTHS.least}
              max={LENGTHS.most}
              precision={0}
              value={lengthS}
              onChange={(value) => setLengthS(value ?? LENGTHS.first)}
              suffix="s"
              style={{ width: 84 }}
            />
            <Button type="primary" disabled={!armed || stopped !== null} onClick={start}>
              {shown ? 'Rehearse again' : 'Rehearse'}
            </Button>
          </>
        )}
      </Verdict>
      <SmallScreen stage="Rehearse" />
      {running || !shown ? (
        <LiveRehearsal running={running} />
      ) : (
        <>
          <RehearsalFrames
            key={shown.id}
            of={shown}
            film={latest?.report.id === shown.id ? latest.film : null}
          />
          <Row gutter={26} style={{ marginTop: 14 }}>
            <Col span={8}>
              <NextStepCard list={list ?? []} shown={shown} onTry={start} ready={armed && !stopped} />
            </Col>
            <Col span={16}>
              <Ledger list={list ?? []} shown={shown} onShow={setChosen} />
            </Col>
          </Row>
        </>
      )}
    </main>
  );
}

/** The live picture, and what to do in front of it. */
function LiveRehearsal({ running }: { running: boolean }) {
  return (
    <Row gutter={24} style={{ marginTop: 14 }}>
      <Col span={15}>
        <LivePicture />
      </Col>
      <Col span={9} className="stack">
        <h2>{running ? 'Do what you will do in the recording' : 'What a rehearsal tells you'}</h2>
        <p className="mute">
          {running
            ? 'Scroll, drag and type as you will. A still screen says nothing about how the machine copes.'
            : 'It records for some seconds with this rig, and shows what became of every frame: recorded in time, late, or dropped, and which stage was too slow. The recording is thrown away; the figures stay with the lesson.'}
        </p>
      </Col>
    </Row>
  );
}

const FIRST: RehearsalProgress = { phase: 'comparing', leftMs: 0 };

type Says = { kind: 'good' | 'warn' | 'stop'; sentence: string; detail?: string | undefined };

/** The one sentence of the stage: what runs, what is in the way, or what the rehearsal that is shown came to. */
function stageVerdict(
  progress: RehearsalProgress | null,
  stopped: { sentence: string; advice?: string } | null,
  problem: { message: string; hint?: string | undefined } | null,
  shown: RehearsalView | null,
  isRead: boolean,
): Says {
  if (progress) return { kind: 'good', sentence: PHASES[progress.phase](Math.ceil(progress.leftMs / 1000)) };
  if (stopped) return { kind: 'stop', sentence: stopped.sentence, detail: stopped.advice };
  if (problem) return { kind: 'stop', sentence: problem.message, detail: problem.hint };
  if (shown) return rehearsalVerdict(shown);
  // Nothing is said of a ledger that is still on its way.
  if (!isRead) return { kind: 'good', sentence: 'Opening the ledger …' };
  return { kind: 'good', sentence: 'Not rehearsed yet: find out what this machine sustains.' };
}

const PHASES: Record<RehearsalProgress['phase'], (leftS: number) => string> = {
  comparing: () => 'Measuring the machine without a recording …',
  recording: (leftS) => `Rehearsing: ${leftS} s left.`,
  judging: () => 'Comparing the recorded text with the source …',
};
