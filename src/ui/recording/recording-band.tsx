'use client';

import { Alert, App, Button, Flex } from 'antd';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { clockText } from '@/core/base/figures';
import { liveSessions } from '@/recorder/live-session';
import { ButtonLink } from '../page/button-link';
import { RecordingIcon } from './recording-icon';
import { useLiveRecording } from './use-live-recording';

const TITLE_SIGN = '● ';

/** The sign that something is being recorded, on every page but the one whose deck shows it. */
export function RecordingBand() {
  const recording = useLiveRecording();
  const path = usePathname();
  const records = recording !== null;
  const here = recording?.where === 'this-tab';
  useRecordingSign(records && !recording.paused);
  useEndNotice();
  useEffect(() => {
    if (!here) return;
    // The browser asks before the page is closed or another address is opened.
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [here]);
  const stop = recording?.stop;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `stop` is new at each drawing and always does the same
  useEffect(() => {
    if (!here) return;
    // A page that is gone can show nothing: its take ends with it. What does not reach the file in time is recovered from the journal.
    const leave = () => stop?.();
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [here]);
  if (!recording) return null;
  const page = `/lessons/${recording.lesson.id}/record`;
  if (here && path === page) return null;
  return (
    <aside className="recording-band" aria-label="Recording">
      <Alert
        banner
        type="error"
        role="presentation"
        icon={<RecordingIcon paused={recording.paused} />}
        title={
          <p role="status">
            <b>{recording.paused ? 'Recording paused' : 'Recording'}</b> “{recording.lesson.title}”
            {recording.where === 'other-tab' && ' in another tab'}
          </p>
        }
        action={
          <Flex gap={14} align="center">
            <span className="fig" role="timer" aria-label="Recorded">
              {clockText(recording.elapsedUs)}
            </span>
            <Button danger type="primary" onClick={recording.stop}>
              Stop
            </Button>
            {here && <ButtonLink href={page}>Show the recording</ButtonLink>}
          </Flex>
        }
      />
    </aside>
  );
}

/** A take that ends while another page is shown says so, with a way to it. */
function useEndNotice(): void {
  const router = useRouter();
  const { notification } = App.useApp();
  useEffect(
    () =>
      liveSessions.subscribe(({ ended }, before) => {
        if (!ended || ended === before.ended) return;
        const { take, lesson } = ended;
        notification.success({
          key: take,
          title: 'Recording complete.',
          description: `The take of “${lesson}” is uploading.`,
          placement: 'bottomLeft',
          duration: 20,
          actions: (
            <Button
              type="primary"
              onClick={() => {
                notification.destroy(take);
                router.push(`/takes/${take}`);
              }}
            >
              Open the take
            </Button>
          ),
        });
      }),
    [notification, router],
  );
}

/** Tab title and icon say that something is recorded, whatever page sets the title. */
function useRecordingSign(on: boolean): void {
  useEffect(() => {
    if (!on) return;
    const sign = () => {
      if (document.title && !document.title.startsWith(TITLE_SIGN))
        document.title = `${TITLE_SIGN}${document.title}`;
    };
    sign();
    // The framework writes a new title when the page changes.
    const titles = new MutationObserver(sign);
    titles.observe(document.head, { childList: true, subtree: true, characterData: true });
    const icon = document.createElement('link');
    icon.rel = 'icon';
    icon.type = 'image/svg+xml';
    icon.href = '/recording.svg';
    document.head.append(icon);
    return () => {
      titles.disconnect();
      icon.remove();
      if (document.title.startsWith(TITLE_SIGN)) document.title = document.title.slice(TITLE_SIGN.length);
    };
  }, [on]);
}
