'use client';

import { Button } from 'antd';
import type { Finding } from '@/core/findings/preflight';
import { useSetUp } from './set-up-context';

/** What preflight found, each with what one click does about it. */
export function FindingsList({ findings }: { findings: readonly Finding[] }) {
  const { changeRig } = useSetUp();
  return (
    <div className="findings list">
      <h2>Before you record</h2>
      <ul>
        {findings.map(({ sentence, advice, fix, weight }) => (
          <li key={sentence} className={weight}>
            <p>
              {sentence} {advice && !fix && <span className="mute">{advice}</span>}
            </p>
            {fix && (
              <Button type="text" onClick={() => changeRig(fix)}>
                {advice?.replace(/\.$/, '')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
