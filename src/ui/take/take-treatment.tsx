'use client';

import { useState } from 'react';
import { sameValue } from '@/core/rig-choices';
import type { TakePage } from '@/core/take-page';
import { isTreated, type Treatment, treatmentText, UNTREATED } from '@/core/treatment/treatment';
import { fetchJson } from '../shared/fetch-json';
import { TreatmentChoices } from '../shared/treatment-choices';

/** What is done to the voice of a take that was recorded: changed here, everything that is heard of it is made anew. */
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
    <details className="take-treatment">
      <summary>
        Voice: {isTreated(now) ? treatmentText(now) : 'as it was recorded'}
        {voice?.treated === 'while-recording' && ' (it was treated while it was recorded)'}
      </summary>
      <TreatmentChoices treatment={wanted} onChange={(part) => setWanted((old) => ({ ...old, ...part }))} />
      <div className="row">
        <button
          type="button"
          className="act"
          disabled={!changed || working}
          onClick={() => void apply(wanted)}
        >
          Make it anew
        </button>
        <span className="small mute">
          {working ? 'The take is being made.' : 'What was recorded stays as it is.'}
        </span>
      </div>
    </details>
  );
}
