'use client';

import { Button, Modal } from 'antd';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';

/** Where somebody wanted to go in the middle of a recording. */
type Pending = { go: () => void };

/**
 * Asks before Record is left while it records, by a link or by Back; the browser itself asks for other addresses (`RecordingBand`).
 * @param busy a take is being recorded
 * @param stopAndGo ends the take, then goes on
 */
export function LeaveGuard({ busy, stopAndGo }: { busy: boolean; stopAndGo: (go: () => void) => void }) {
  const router = useRouter();
  const [pending, setPending] = useState<Pending | null>(null);
  const leaving = useRef(false);

  useEffect(() => {
    if (!busy) return;
    leaving.current = false;
    const onClick = (event: MouseEvent) => {
      const link = (event.target as Element).closest?.<HTMLAnchorElement>('a[href]');
      const plain = !event.ctrlKey && !event.metaKey && !event.shiftKey && event.button === 0;
      if (!link || !plain || link.target === '_blank' || link.hasAttribute('download')) return;
      const { origin, pathname, search } = new URL(link.href);
      if (origin !== location.origin || pathname === location.pathname) return;
      event.preventDefault();
      event.stopPropagation();
      setPending({ go: () => router.push(pathname + search) });
    };
    // Back cannot be refused: it leads to a copy of this page's own entry, and the question is asked there.
    const { href } = location;
    const stay = () => history.pushState(history.state, '', href);
    const onBack = () => {
      if (leaving.current) return;
      stay();
      setPending({
        go: () => {
          leaving.current = true;
          history.go(-2);
        },
      });
    };
    stay();
    document.addEventListener('click', onClick, true);
    window.addEventListener('popstate', onBack);
    return () => {
      document.removeEventListener('click', onClick, true);
      window.removeEventListener('popstate', onBack);
    };
  }, [busy, router]);

  const choose = (how: 'stay' | 'stop' | 'continue') => {
    const go = pending?.go;
    setPending(null);
    if (!go || how === 'stay') return;
    if (how === 'stop' && busy) stopAndGo(go);
    else go();
  };
  return (
    <Modal
      open={pending !== null}
      centered
      title="Leave this page while it is recording?"
      onCancel={() => choose('stay')}
      footer={[
        <Button key="stay" onClick={() => choose('stay')}>
          Stay
        </Button>,
        <Button key="stop" danger onClick={() => choose('stop')}>
          Stop and save the take
        </Button>,
        <Button key="continue" type="primary" onClick={() => choose('continue')}>
          Continue recording
        </Button>,
      ]}
    >
      <p>
        If you continue, a band at the top of every page shows the recording, with a button to stop it and a
        way back here.
      </p>
    </Modal>
  );
}
