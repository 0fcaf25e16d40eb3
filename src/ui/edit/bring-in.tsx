'use client';

import { App, Button, Flex, Progress } from 'antd';
import { useState } from 'react';
import type { IncomingView } from '@/core/views/incoming';
import { FileButton } from '../fields/file-button';
import { fetchJson } from '../wire/fetch-json';
import { useDroppedFile } from '../wire/use-dropped-file';
import { useJob } from '../wire/use-job';
import { type Sending, useIncoming } from './use-incoming';

/** What the field offers first; what a file really is, the studio finds out. */
const KINDS = 'video/*,audio/*,image/png,image/jpeg,image/webp,image/svg+xml,application/pdf,.mkv';

/** Brings a video, a sound, a picture or slides into the lesson: chosen, or dropped anywhere on the page. It is added where the playhead is. */
export function BringIn(props: {
  /** On their way already. */
  incoming: readonly IncomingView[];
  /** Where the playhead is. */
  placeUs: () => number;
  flush: () => Promise<void>;
}) {
  const { message } = App.useApp();
  const { sending, making, bring, look, leave } = useIncoming(props);
  const busy = sending?.name ?? making?.name;
  const dragged = useDroppedFile((file) => {
    if (busy) void message.info(`${busy} is still being imported. Wait for it, or cancel it.`);
    else void bring(file);
  });
  if (sending) return <SendingFile {...sending} />;
  if (making) return <MakingTake file={making} onOver={look} onLeave={leave} />;
  return (
    <FileButton
      label={dragged ? 'Drop to import' : 'Import a file'}
      field="File to import"
      accept={KINDS}
      onFile={(file) => void bring(file)}
    />
  );
}

const SendingFile = ({ name, share, ending }: Sending) => (
  <HowFar text={`Sending ${name}`} share={share} onCancel={() => ending.abort()} />
);

/** A take is made of it by a worker: it goes on when the page is left. */
function MakingTake(props: { file: IncomingView; onOver: () => void; onLeave: () => void }) {
  const { file, onOver, onLeave } = props;
  const { message } = App.useApp();
  const [cancelling, setCancelling] = useState(false);
  const path = `/api/incoming/${file.id}`;
  const job = useJob(`${path}/progress`, file.job, onOver) ?? file.job;
  const cancel = async () => {
    setCancelling(true);
    try {
      await fetchJson('DELETE', path);
      onLeave();
    } catch (error) {
      setCancelling(false);
      void message.error(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <HowFar
      text={`${file.name}: ${job.step}`}
      share={job.progress}
      cancelling={cancelling}
      onCancel={() => void cancel()}
    />
  );
}

function HowFar(props: { text: string; share: number; cancelling?: boolean; onCancel: () => void }) {
  return (
    <Flex vertical gap={4} role="status" style={{ width: 260 }}>
      <span className="small">{props.text}</span>
      <Flex gap={8} align="center">
        <Progress percent={Math.round(props.share * 100)} status="active" size="small" />
        <Button size="small" loading={props.cancelling} onClick={props.onCancel}>
          Cancel
        </Button>
      </Flex>
    </Flex>
  );
}
