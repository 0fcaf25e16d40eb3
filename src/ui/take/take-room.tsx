'use client';

import { App, Button, Col, Flex, Row } from 'antd';
import dynamic from 'next/dynamic';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { bytesText, clockText } from '@/core/base/figures';
import { takeFileName } from '@/core/rig/take-names';
import type { TakePage } from '@/core/views/take-page';
import { canPlayTracks, preparePlayer } from '@/player/player';
import { startUploader, uploadNews } from '@/recorder/uploader/uploader';
import { EditableTitle } from '../fields/editable-title';
import type { Light } from '../look/light';
import { Bank } from '../page/bank';
import { ButtonLink } from '../page/button-link';
import { ShareLink } from '../page/share-link';
import { SteppingStones } from '../page/stones';
import { Verdict } from '../page/verdict';
import { fetchJson } from '../wire/fetch-json';
import { useJob } from '../wire/use-job';
import { useTold } from '../wire/use-told';
import { TakeFigures } from './take-figures';
import { TakeFiles } from './take-files';
import { TakeTreatment } from './take-treatment';
import { takeVerdict } from './take-verdict';
import { TrackPlayer } from './track-player';

const TakesList = dynamic(() => import('./takes-list').then((m) => m.TakesList), { ssr: false });

/** The page of one take: watch it, see what was asked and what was achieved, take it away. */
export function TakeRoom({ take, light }: { take: TakePage; light: Light }) {
  const router = useRouter();
  const { notification } = App.useApp();
  const told = useTold();
  const job = useJob(`/api/takes/${take.id}/progress`, take.job, () => router.refresh());
  const [able, setAble] = useState(true);
  useEffect(() => {
    startUploader();
    setAble(canPlayTracks());
  }, []);
  const arriving = take.state === 'recording' || take.state === 'uploading';
  useEffect(() => {
    if (arriving && canPlayTracks()) preparePlayer();
  }, [arriving]);
  const news = useStore(uploadNews, ({ news }) => news);
  const arrived = news?.arrived.some(({ id }) => id === take.id) ?? false;
  useEffect(() => {
    if (arrived) router.refresh();
  }, [arrived, router]);
  // A refresh that meets another one under way is dropped, so the page asks until it has what it knows to be there.
  const behind = arriving || (job?.state === 'done' && take.facts === null);
  useEffect(() => {
    if (!behind) return;
    const timer = setInterval(() => router.refresh(), 1000);
    return () => clearInterval(timer);
  }, [behind, router]);

  const change = async (work: Promise<unknown>) => {
    if (await told(work)) router.refresh();
  };
  const finishing = (run: boolean) => change(fetchJson('POST', `/api/takes/${take.id}/finish`, { run }));
  const rename = (title: string) => change(fetchJson('PATCH', `/api/takes/${take.id}`, { title }));
  const setDeleted = (deleted: boolean) => told(fetchJson('PATCH', `/api/takes/${take.id}`, { deleted }));
  const remove = async () => {
    if (!(await setDeleted(true))) return;
    const undo = async () => {
      if (!(await setDeleted(false))) return;
      notification.destroy(take.id);
      router.push(`/takes/${take.id}`);
    };
    notification.open({
      key: take.id,
      title: `${take.title} was moved to the bin.`,
      description: 'It can be restored for 30 days.',
      duration: 20,
      placement: 'bottomLeft',
      actions: <Button onClick={undo}>Undo</Button>,
    });
    router.push(`/lessons/${take.lesson.id}/record`);
  };

  usePlainVideo(take);

  const stuck = news?.takes.find(({ id }) => id === take.id)?.problem ?? null;
  const verdict = takeVerdict(take, job, stuck);
  const working = job?.state === 'running' || job?.state === 'waiting';
  const plain = take.facts?.plainVideo;
  return (
    <>
      <Bank light={light} title={<h1>{take.lesson.title}</h1>}>
        <SteppingStones lesson={take.lesson} here="record" />
      </Bank>
      <main>
        <Verdict
          kind={verdict.kind}
          sentence={verdict.sentence}
          // Whatever else there is to say: what it did alone is always told.
          detail={[verdict.detail, ...take.byItself].filter(Boolean).join(' ') || undefined}
        >
          {arriving && take.arrival?.offered && (
            <Button type="primary" onClick={() => change(fetchJson('POST', `/api/takes/${take.id}/arrived`))}>
              Finish with what has arrived
            </Button>
          )}
          {working && <Button onClick={() => finishing(false)}>Cancel</Button>}
          {(job?.state === 'failed' || job?.state === 'cancelled') && (
            <Button type="primary" onClick={() => finishing(true)}>
              Try again
            </Button>
          )}
          <ButtonLink href={`/lessons/${take.lesson.id}/record`}>Record another</ButtonLink>
          {!arriving && (
            <ButtonLink type={working ? 'default' : 'primary'} href={`/lessons/${take.lesson.id}/edit`}>
              Edit
            </ButtonLink>
          )}
        </Verdict>
        <Row gutter={[20, 14]} style={{ marginTop: 14 }}>
          <Col xs={{ flex: '100%' }} md={{ flex: '1 1 0' }}>
            <section aria-label="Player">
              {arriving ? (
                <Flex className="screen player-wait" align="center" justify="center">
                  Uploading from the browser …
                </Flex>
              ) : able ? (
                <TrackPlayer take={take} />
              ) : plain ? (
                // biome-ignore lint/a11y/useMediaCaption: captions are made when a lesson is delivered
                <video className="screen" src={`/api/media/${take.id}/plain.mp4`} controls />
              ) : (
                <Flex className="screen player-wait" align="center" justify="center">
                  This browser plays the plain video, as soon as it is made.
                </Flex>
              )}
            </section>
          </Col>
          <Col xs={{ flex: '100%' }} md={{ flex: '376px' }}>
            <section className="panel stack" aria-label="The take">
              <div className="row">
                <EditableTitle heading="h2" of="the take" title={take.title} onChange={rename} />
              </div>
              <p className="mute small">
                {new Date(take.startedAt).toLocaleString('en-GB', {
                  dateStyle: 'medium',
                  timeStyle: 'short',
                })}
                {take.durationUs !== null && `, ${clockText(take.durationUs)} long`}
              </p>
              <Flex vertical gap={8}>
                {plain && (
                  <Button
                    href={`/api/media/${take.id}/plain.mp4?name=${encodeURIComponent(fileNameOf(take))}`}
                    download
                  >
                    {take.facts?.picture ? 'Plain video' : 'Plain sound'}{' '}
                    <span className="small mute">MP4, {bytesText(plain.bytes)}</span>
                  </Button>
                )}
                {take.facts && (
                  <Button
                    href={`/api/media/${take.id}/recorded.mkv?name=${encodeURIComponent(`${fileNameOf(take)}, as recorded`)}`}
                    download
                  >
                    As recorded{' '}
                    <span className="small mute">Matroska, all tracks, {bytesText(take.facts.bytes)}</span>
                  </Button>
                )}
                <TakeFiles
                  take={take}
                  name={fileNameOf(take)}
                  onChange={change}
                  onRefresh={() => router.refresh()}
                />
              </Flex>
              <TakeFigures take={take} />
              {take.rig.voice && take.facts && (
                <TakeTreatment take={take} working={working} onChange={change} />
              )}
              <Flex vertical gap={8}>
                <ShareLink of={{ take: take.id }} share={take.share} onChange={() => router.refresh()} />
                <Button onClick={remove}>Delete the take</Button>
              </Flex>
            </section>
          </Col>
        </Row>
        <TakesList
          lesson={take.lesson.id}
          here={take.id}
          shown={[take.state, take.title, take.durationUs].join()}
        />
      </main>
    </>
  );
}

/** Whoever wanted the plain video after the stop gets it as soon as it is made. */
function usePlainVideo(take: TakePage): void {
  const wanted = useSearchParams()?.get('then') === 'plain';
  const [given, setGiven] = useState(false);
  const ready = wanted && take.facts?.plainVideo !== null && take.facts?.plainVideo !== undefined;
  useEffect(() => {
    if (!ready || given) return;
    setGiven(true);
    const link = document.createElement('a');
    link.href = `/api/media/${take.id}/plain.mp4?name=${encodeURIComponent(fileNameOf(take))}`;
    link.download = '';
    link.click();
  }, [ready, given, take]);
}

/** What the take's files are called. */
const fileNameOf = ({ lesson, title, rig, startedAt, facts }: TakePage): string =>
  takeFileName({
    rig,
    lesson: lesson.title,
    take: title,
    startedAt: new Date(startedAt),
    picture: facts?.picture ?? null,
  });
