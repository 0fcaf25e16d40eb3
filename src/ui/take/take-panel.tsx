'use client';

import { Button, Flex } from 'antd';
import { useRouter } from 'next/navigation';
import { bytesText, clockText } from '@/core/base/figures';
import { takeFileName } from '@/core/rig/take-names';
import type { TakePage } from '@/core/views/take-page';
import { EditableTitle } from '../fields/editable-title';
import { ShareLink } from '../page/share-link';
import { fetchJson } from '../wire/fetch-json';
import { TakeFigures } from './take-figures';
import { TakeFiles } from './take-files';
import { TakeTreatment } from './take-treatment';

/** What the take's files are called. */
export const fileNameOf = ({ lesson, title, rig, startedAt, facts }: TakePage): string =>
  takeFileName({
    rig,
    lesson: lesson.title,
    take: title,
    startedAt: new Date(startedAt),
    picture: facts?.picture ?? null,
  });

/** The address under which a file of the take is saved with its name. */
export const savedAs = (take: TakePage, file: string, name: string): string =>
  `/api/media/${take.id}/${file}?name=${encodeURIComponent(name)}`;

/** Everything about the take beside its player: its name, files and figures. */
export function TakePanel(props: {
  take: TakePage;
  /** Its files are being made. */
  working: boolean;
  onChange: (work: Promise<unknown>) => Promise<void>;
  onDelete: () => void;
}) {
  const { take, working, onChange, onDelete } = props;
  const router = useRouter();
  const rename = (title: string) => onChange(fetchJson('PATCH', `/api/takes/${take.id}`, { title }));
  const moment = new Date(take.startedAt).toLocaleString('en-GB', {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  return (
    <section className="panel stack" aria-label="The take">
      <div className="row">
        <EditableTitle heading="h2" of="the take" title={take.title} onChange={rename} />
      </div>
      <p className="mute small">
        {moment}
        {take.durationUs !== null && `, ${clockText(take.durationUs)} long`}
      </p>
      <Flex vertical gap={8}>
        <RecordedFiles take={take} />
        <TakeFiles
          take={take}
          name={fileNameOf(take)}
          onChange={onChange}
          onRefresh={() => router.refresh()}
        />
      </Flex>
      <TakeFigures take={take} />
      {take.rig.voice && take.facts && <TakeTreatment {...{ take, working, onChange }} />}
      <Flex vertical gap={8}>
        <ShareLink of={{ take: take.id }} share={take.share} onChange={() => router.refresh()} />
        <Button onClick={onDelete}>Delete the take</Button>
      </Flex>
    </section>
  );
}

/** The files that every finished take has. */
function RecordedFiles({ take }: { take: TakePage }) {
  const { facts } = take;
  const plain = facts?.plainVideo;
  const name = fileNameOf(take);
  return (
    <>
      {plain && (
        <Button href={savedAs(take, 'plain.mp4', name)} download>
          {facts.picture ? 'Plain video' : 'Plain sound'}{' '}
          <span className="small mute">MP4, {bytesText(plain.bytes)}</span>
        </Button>
      )}
      {facts && (
        <Button href={savedAs(take, 'recorded.mkv', `${name}, as recorded`)} download>
          As recorded <span className="small mute">Matroska, all tracks, {bytesText(facts.bytes)}</span>
        </Button>
      )}
    </>
  );
}
