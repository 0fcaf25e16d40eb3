'use client';

import { Button } from 'antd';
import { useMemo } from 'react';
import { slowdownSentence } from '@/core/rehearsal/load';
import { type NextStep, nextStep } from '@/core/rehearsal/next-step';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { measuredSpeeds } from '@/recorder/headroom';
import { useRoom } from '../lesson/lesson-room';
import { ButtonLink } from '../page/button-link';
import { Figures } from '../page/figures';

type Props = {
  list: readonly RehearsalView[];
  shown: RehearsalView;
  /** Whether a rehearsal can start. */
  ready: boolean;
  /** Starts one. */
  onTry: () => void;
};

const ms = (value: number) => (value < 1000 ? `${Math.round(value)} ms` : `${(value / 1000).toFixed(1)} s`);

/** The one change that gives most, with a button that makes it and rehearses again; and what the recording does to the machine. */
export function NextStepCard({ list, shown, ready, onTry }: Props) {
  const step = useMemo(
    () =>
      nextStep({
        now: shown,
        earlier: list.filter(({ number }) => number !== shown.number),
        speeds: shown.encoder ? measuredSpeeds(shown.encoder.size) : [],
      }),
    [list, shown],
  );
  const slower = slowdownSentence(shown.yardstick);
  return (
    <section className="panel next-step" aria-label="Next step">
      {step ? (
        <Proposal step={step} ready={ready} onTry={onTry} />
      ) : (
        <NoProposal isWell={shown.diagnosis.faults.length === 0} isSlowed={slower !== null} />
      )}
      {slower && <p>{slower}</p>}
      <MachineFigures of={shown} />
    </section>
  );
}

/** The one change, what it is expected to do and what it costs. */
function Proposal({ step, ready, onTry }: { step: NextStep } & Pick<Props, 'ready' | 'onTry'>) {
  const { lesson, changeRig } = useRoom();
  const { id, title, instead, effect, cost, rig } = step;
  const start = () => {
    if (rig) changeRig(() => rig);
    onTry();
  };
  return (
    <>
      <p className="small mute">Next step: most time gained, least visible</p>
      <h2>{title}</h2>
      <p>
        {instead && <span className="mute">instead of {instead}. </span>}
        {effect} <span className="mute">{cost}</span>
      </p>
      <div className="row">
        {id === 'region' ? (
          <ButtonLink href={`/lessons/${lesson.id}/set-up#area`}>Choose a region</ButtonLink>
        ) : (
          <Button disabled={!ready} onClick={start}>
            {rig ? 'Try it' : 'Rehearse after closing'}
          </Button>
        )}
      </div>
    </>
  );
}

function NoProposal({ isWell, isSlowed }: { isWell: boolean; isSlowed: boolean }) {
  const suits = isWell && !isSlowed;
  return (
    <>
      <h2>{suits ? 'Nothing to change' : 'Nothing left to try'}</h2>
      <p className="mute">
        {suits
          ? 'This rig suits this machine and what you showed.'
          : 'No single change of the rig removes it. Close other programs, or record on another machine.'}
      </p>
    </>
  );
}

const share = (part: number) => `${Math.round(part * 100)} %`;

/** What held the recorder up, and how busy the machine was before and during the rehearsal. */
function MachineFigures({ of: { load, figures } }: { of: RehearsalView }) {
  return (
    <>
      <Figures
        of={[
          { name: 'Longest write to the disk', value: ms(figures.writeMostMs) },
          figures.uploadBehindMs !== null && { name: 'Upload behind', value: ms(figures.uploadBehindMs) },
          figures.longTasksMs > 0 && { name: 'Page busy', value: ms(figures.longTasksMs) },
          figures.soundGapsMs > 0 && {
            name: 'Gaps in the sound',
            value: ms(figures.soundGapsMs),
            strong: true,
          },
        ]}
      />
      {load && (
        <Figures
          of={[
            {
              name: 'Processor, before / during',
              value: `${share(load.before.cpu)} / ${share(load.during.cpu)}`,
            },
            { name: 'Memory in use', value: share(load.during.memory) },
            load.during.disk !== null && { name: 'Disk busy', value: share(load.during.disk) },
            load.during.programs.length > 0 && {
              name: 'Busiest programs',
              value: load.during.programs
                .slice(0, 3)
                // A system cuts long names off, also in the middle of a parenthesis.
                .map(({ name, cores }) => `${name.replace(/ \([^)]*$/, '')} ${cores.toFixed(1)}`)
                .join(', '),
            },
          ]}
        />
      )}
    </>
  );
}
