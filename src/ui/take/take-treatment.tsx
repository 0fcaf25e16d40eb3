'use client';

import { Button, Collapse } from 'antd';
import { useState } from 'react';
import { isTreated, type Treatment, treatmentText, UNTREATED } from '@/core/audio/treatment';
import { sameValue } from '@/core/base/same-value';
import type { TakePage } from '@/core/views/take-page';
import { TreatmentChoices } from '../fields/treatment-choices';
import { fetchJson } from '../wire/fetch-json';

/** Voice processing of a recorded take; a change reprocesses its sound. */
export function TakeTreatment(props: {
  take: TakePage;
  working: boolean;
  onChange: (work: Promise<unknown>) => Promise<void>;
}) {
  const { take, working, onChange } = props;
  const { voice } = take.rig;
  const fromRig = voice?.treated === 'afterwards' ? voice.treatment : UNTREATED;
  const now = take.treatment ?? fromRig;
  const [wanted, setWanted] = useState<Treatment>(now);
  const changed = !sameValue(now, wanted);
  const apply = (treatment: Treatment | null) =>
    onChange(fetchJson('PATCH', `/api/takes/${take.id}`, { treatment }));
  return (
    <Collapse
      className="take-treatment"
      ghost
      size="small"
      items={[
        {
          key: 'voice',
          label: `Voice: ${isTreated(now) ? treatmentText(now) : 'as recorded'}${
            voice?.treated === 'while-recording' ? ' (processed while recording)' : ''
          }`,
          children: (
            <>
              <TreatmentChoices
                treatment={wanted}
                onChange={(part) => setWanted((old) => ({ ...old, ...part }))}
              />
              <div className="row">
                <Button disabled={!changed || working} onClick={() => void apply(wanted)}>
                  Reprocess
                </Button>
                <span className="small mute">
                  {working ? 'The take is being processed.' : 'The recording itself is not changed.'}
                </span>
              </div>
            </>
          ),
        },
      ]}
    />
  );
}
