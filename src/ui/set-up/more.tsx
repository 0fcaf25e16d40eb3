'use client';

import { Collapse } from 'antd';
import type { ReactNode } from 'react';
import { sameValue } from '@/core/base/same-value';
import { propose } from '@/core/rig/purposes';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { fieldNames, type RigPath } from '@/core/rig/rig-choices';
import { valueAt } from '@/core/rig/rig-values';
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
