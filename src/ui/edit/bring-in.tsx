'use client';

import { App, Button, Flex, Progress } from 'antd';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import { FileButton } from '../fields/file-button';
import { useRoom } from '../lesson/lesson-room';
import { sendFile } from '../wire/send-file';
import { useDroppedFile } from '../wire/use-dropped-file';

const Answer = z.object({ take: TakeId, pages: z.int().nullable() });

/** What the field offers first; what a file really is, the studio finds out. */
const KINDS = 'video/*,audio/*,image/png,image/jpeg,image/webp,image/svg+xml,application/pdf,.mkv';

type Sending = { name: string; share: number; ending: AbortController };

/** Brings a video, a sound, a picture or slides into the lesson: chosen, or dropped anywhere on the page. It is added where the playhead is. */
export function BringIn(props: { positionUs: number; flush: () => Promise<void> }) {
  const { lesson } = useRoom();
  const router = useRouter();
  const { message } = App.useApp();
  const [sending, setSending] = useState<Sending | null>(null);
  const place = useRef(props.positionUs);
  place.current = props.positionUs;
  const bring = async (file: File) => {
    if (sending) return;
    const ending = new AbortController();
    const us = place.current;
    const told = (share: number) => setSending({ name: file.name, share, ending });
    told(0);
    try {
      const query = new URLSearchParams({ lesson: lesson.id, name: file.name });
      const { take, pages } = Answer.parse(await sendFile(`/api/bring?${query}`, file, told, ending.signal));
      // What was edited meanwhile is not lost with the page that shows the new take.
      await props.flush();
      const added = new URLSearchParams({ brought: take, at: String(us), pages: String(pages ?? 0) });
      router.push(`/lessons/${lesson.id}/edit?${added}`);
      router.refresh();
    } catch (error) {
      if (ending.signal.aborted) return;
      const { message: what, hint } = problemOf(error);
      void message.error(hint ? `${file.name}: ${what} ${hint}` : `${file.name}: ${what}`, 10);
    } finally {
      setSending(null);
    }
  };
  const dragged = useDroppedFile((file) => void bring(file));
  if (sending)
    return (
      <Flex vertical gap={4} role="status" style={{ width: 260 }}>
        <span className="small">
          {sending.share < 1 ? `Sending ${sending.name}` : `Making a take of ${sending.name}`}
        </span>
        <Flex gap={8} align="center">
          <Progress
            percent={Math.round(sending.share * 100)}
            status="active"
            showInfo={sending.share < 1}
            size="small"
          />
          <Button size="small" onClick={() => sending.ending.abort()}>
            Cancel
          </Button>
        </Flex>
      </Flex>
    );
  return (
    <FileButton
      label={dragged ? 'Drop to import' : 'Import a file'}
      field="File to import"
      accept={KINDS}
      onFile={(file) => void bring(file)}
    />
  );
}
