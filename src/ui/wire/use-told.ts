'use client';

import { App } from 'antd';
import { useCallback } from 'react';
import { problemOf } from '@/core/base/problem';

/**
 * Waits for something that was wished; when it cannot be done it says why, and what to do.
 * @returns whether it was done
 */
export function useTold(): (work: Promise<unknown>) => Promise<boolean> {
  const { message } = App.useApp();
  return useCallback(
    (work) =>
      work.then(
        () => true,
        (error) => {
          const { message: what, hint } = problemOf(error);
          void message.error(hint ? `${what} ${hint}` : what);
          return false;
        },
      ),
    [message],
  );
}
