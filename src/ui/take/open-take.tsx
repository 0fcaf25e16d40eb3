'use client';

import dynamic from 'next/dynamic';

/** The page of a take, its code in a file of its own: it can be loaded while the take is still recorded. */
export const TakeRoom = dynamic(() => import('./take-room').then((m) => m.TakeRoom));

/** Loads the code of a take's page before somebody goes there. */
export const preloadTakeRoom = (): void => {
  import('./take-room').catch(() => undefined);
};
