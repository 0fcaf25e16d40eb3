'use client';

import { Button } from 'antd';
import { useMemo } from 'react';
import { slowdownSentence } from '@/core/rehearsal/load';
import { nextStep } from '@/core/rehearsal/next-step';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { measuredSpeeds } from '@/recorder/headroom';
import { useRoom } from '../lesson/lesson-room';
import { Figures } from '../page/figures';

type Props = {
  list: readonly RehearsalView[];
  shown: RehearsalView;
  /** Whether a rehearsal can start. */
  ready: boolean;
  /** Starts one. */
  onTry: () => void;
};

/** The one change that gives most, with a button that makes it and rehearses again; and what the recording does to the machine. */
export function NextStepCard({ list, shown, ready, onTry }: Props) {
  const { changeRig } = useRoom();
  const step = useMemo(
    () =>
      nextStep({
        now: shown,
        earlier: list.filter(({ number }) => number !== shown.number),
        speeds: shown.encoder ? measuredSpeeds(shown.encoder.size) : [],
      }),
    [list, shown],
  );
  const { load } = shown;
  const slower = slowdownSentence(shown.yardstick);
  const share = (part: number) => `${Math.round(part * 100)} %`;
  return (
    <section className="panel next-step" aria-label="Next step">
      {step ? (
        <>
          <p className="small mute">Next step: most time gained, least visible</p>
          <h2>{step.title}</h2>
          <p>
            {step.instead && <span className="mute">instead of {step.instead}. </span>}
            {step.effect} <span className="mute">{step.cost}</span>
          </p>
          <div className="row">
            {step.rig ? (
              <Button
                disabled={!ready}
                onClick={() => {
                  const { rig } = step;
                  if (rig) changeRig(() => rig);
                  onTry();
                }}
              >
                Try it
              </Button>
            ) : (
              <Button disabled={!ready} onClick={onTry}>
                Rehearse after closing
              </Button>
            )}
          </div>
        </>
      ) : (
        <>
          <h2>{shown.diagnosis.faults.length === 0 ? 'Nothing to change' : 'Nothing left to try'}</h2>
          <p className="mute">
            {shown.diagnosis.faults.length === 0
              ? 'This rig suits this machine and what you showed.'
              : 'No single change of the rig removes it. Close other programs, or record on another machine.'}
          </p>
        </>
      )}
      {slower && <p>{slower}</p>}
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
                .map(({ name, cores }) => `${name} ${cores.toFixed(1)}`)
                .join(', '),
            },
          ]}
        />
      )}
    </section>
  );
}
