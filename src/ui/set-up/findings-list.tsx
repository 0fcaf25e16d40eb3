'use client';

import { Button } from 'antd';
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
              <Button type="text" onClick={() => changeRig(mend)}>
                {fix?.replace(/\.$/, '')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
