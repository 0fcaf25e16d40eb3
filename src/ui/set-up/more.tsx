'use client';

import { Collapse } from 'antd';
import type { ReactNode } from 'react';
import { propose } from '@/core/purposes';
import { PRACTICE_RIG } from '@/core/rig';
import { fieldNames, type RigPath } from '@/core/rig-choices';
import { sameValue, valueAt } from '@/core/rig-values';
import { useSetUp } from './set-up-context';

/** What few people change, folded away; its head names what in it was changed. */
export function More({ paths, children }: { paths: readonly RigPath[]; children: ReactNode }) {
  const { rig } = useSetUp();
  const proposed = rig.purpose ? propose(rig.purpose, rig).rig : PRACTICE_RIG;
  const changed = paths.filter((path) => !sameValue(valueAt(rig, path), valueAt(proposed, path)));
  const names = changed.map((path) => fieldNames(path).name);
  return (
    <Collapse
      className="wide"
      ghost
      size="small"
      items={[
        {
          key: 'more',
          label: (
            <>
              More{' '}
              <span className="small mute">
                {names.length === 0 ? 'as proposed' : `changed: ${names.join(', ')}`}
              </span>
            </>
          ),
          children: <div className="grid">{children}</div>,
        },
      ]}
    />
  );
}
