'use client';

import type { Finding } from '@/core/preflight';
import { useSetUp } from './set-up-context';

/** What preflight found, each with what one click does about it. */
export function FindingsList({ findings }: { findings: readonly Finding[] }) {
  const { changeRig } = useSetUp();
  return (
    <div className="findings">
      <h2>Before you record</h2>
      <ul>
        {findings.map(({ sentence, fix, mend, weight }) => (
          <li key={sentence} className={weight}>
            <p>
              {sentence} {fix && !mend && <span className="mute">{fix}</span>}
            </p>
            {mend && (
              <button type="button" className="act quiet" onClick={() => changeRig(mend)}>
                {fix?.replace(/\.$/, '')}
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
