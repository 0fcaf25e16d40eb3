'use client';

import { App, Button, Col, Flex, Row } from 'antd';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import type { TakePage } from '@/core/views/take-page';
import { canPlayTracks } from '@/player/player';
import type { Light } from '../look/light';
import { Bank } from '../page/bank';
import { ButtonLink } from '../page/button-link';
import { SteppingStones } from '../page/stones';
import { Verdict } from '../page/verdict';
import { fetchJson } from '../wire/fetch-json';
import { useJob } from '../wire/use-job';
import { useTold } from '../wire/use-told';
import { TakePanel } from './take-panel';
import { takeVerdict } from './take-verdict';
import { TrackPlayer } from './track-player';
import { usePlainVideo, useTakeFollow } from './use-take-follow';

const TakesList = dynamic(() => import('./takes-list').then((m) => m.TakesList), { ssr: false });

/** The page of one take: watch it, see what was asked and what was achieved, take it away. */
export function TakeRoom({ take, light }: { take: TakePage; light: Light }) {
  const router = useRouter();
  const told = useTold();
  const job = useJob(`/api/takes/${take.id}/progress`, take.job, () => router.refresh());
  const stuck = useTakeFollow(take, job);
  const remove = useDeletion(take);
  usePlainVideo(take);
  const change = async (work: Promise<unknown>) => {
    if (await told(work)) router.refresh();
  };
  const verdict = takeVerdict(take, job, stuck);
  const working = job?.state === 'running' || job?.state === 'waiting';
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
          <NextSteps {...{ take, working }} state={job?.state ?? null} onChange={change} />
        </Verdict>
        <Row gutter={[20, 14]} style={{ marginTop: 14 }}>
          <Col xs={{ flex: '100%' }} md={{ flex: '1 1 0' }}>
            <section aria-label="Player">
              <Screen take={take} />
            </section>
          </Col>
          <Col xs={{ flex: '100%' }} md={{ flex: '376px' }}>
            <TakePanel {...{ take, working }} onChange={change} onDelete={remove} />
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

const isArriving = ({ state }: TakePage): boolean => state === 'recording' || state === 'uploading';

/** What can be done about the take as it is now. */
function NextSteps(props: {
  take: TakePage;
  state: string | null;
  working: boolean;
  onChange: (work: Promise<unknown>) => Promise<void>;
}) {
  const { take, state, working, onChange } = props;
  const finishing = (run: boolean) => onChange(fetchJson('POST', `/api/takes/${take.id}/finish`, { run }));
  return (
    <>
      {isArriving(take) && take.arrival?.offered && (
        <Button type="primary" onClick={() => onChange(fetchJson('POST', `/api/takes/${take.id}/arrived`))}>
          Finish with what has arrived
        </Button>
      )}
      {working && <Button onClick={() => finishing(false)}>Cancel</Button>}
      {(state === 'failed' || state === 'cancelled') && (
        <Button type="primary" onClick={() => finishing(true)}>
          Try again
        </Button>
      )}
      <ButtonLink href={`/lessons/${take.lesson.id}/record`}>Record another</ButtonLink>
      {!isArriving(take) && (
        <ButtonLink type={working ? 'default' : 'primary'} href={`/lessons/${take.lesson.id}/edit`}>
          Edit
        </ButtonLink>
      )}
    </>
  );
}

function Screen({ take }: { take: TakePage }) {
  const [able, setAble] = useState(true);
  useEffect(() => setAble(canPlayTracks()), []);
  if (isArriving(take)) return <Waiting>Uploading from the browser …</Waiting>;
  if (able) return <TrackPlayer take={take} />;
  if (!take.facts?.plainVideo)
    return <Waiting>This browser plays the plain video, as soon as it is made.</Waiting>;
  // biome-ignore lint/a11y/useMediaCaption: captions are made when a lesson is delivered
  return <video className="screen" src={`/api/media/${take.id}/plain.mp4`} controls />;
}

const Waiting = ({ children }: { children: ReactNode }) => (
  <Flex className="screen player-wait" align="center" justify="center">
    {children}
  </Flex>
);

/** Moves the take to the bin, leaves its page, and offers to bring both back. */
function useDeletion(take: TakePage): () => Promise<void> {
  const router = useRouter();
  const { notification } = App.useApp();
  const told = useTold();
  const setDeleted = (deleted: boolean) => told(fetchJson('PATCH', `/api/takes/${take.id}`, { deleted }));
  return async () => {
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
}
