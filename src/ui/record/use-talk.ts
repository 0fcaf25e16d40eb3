import { useCallback, useEffect, useRef } from 'react';
import type { Session } from '@/recorder/session';

export type Talk = {
  /** Whether the voice is heard only while it is asked for. */
  push: boolean;
  /** Begins to be heard, or ends. */
  talk: (heard: boolean) => void;
  /** Ends where it had begun: the pointer left the button. */
  release: () => void;
};

/** A voice that is heard only while a key or a button is held. */
export function useTalk({ actor }: Session, push: boolean, muted: boolean): Talk {
  const holding = useRef(false);
  const talk = useCallback(
    (heard: boolean) => {
      holding.current = heard;
      actor.send({ type: 'MUTE', muted: !heard });
    },
    [actor],
  );
  // It is silent from the first instant on.
  useEffect(() => {
    if (push && !muted && !holding.current) talk(false);
  }, [push, muted, talk]);
  useEffect(() => {
    if (!push) return;
    // A key that is let go in another window is never seen to go up.
    const onBlur = () => talk(false);
    window.addEventListener('blur', onBlur);
    return () => window.removeEventListener('blur', onBlur);
  }, [push, talk]);
  return { push, talk, release: () => holding.current && talk(false) };
}
