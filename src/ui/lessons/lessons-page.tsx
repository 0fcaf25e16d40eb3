'use client';

import { EllipsisOutlined } from '@ant-design/icons';
import { App, Button, Col, Dropdown, Flex, Input, Pagination, Row, Select } from 'antd';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { clockText } from '@/core/base/figures';
import { findLessons, foundTakes, LESSON_ORDERS, type LessonOrder } from '@/core/views/find-lessons';
import { type LessonView, STAGES } from '@/core/views/lesson';
import { startUploader, uploadNews } from '@/recorder/uploader/uploader';
import { ButtonLink } from '../page/button-link';
import { PageLink } from '../page/page-link';
import { SmallStones } from '../page/stones';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';
import { SafetyVerdict } from './safety-verdict';

const BrowserRecordings = dynamic(() => import('./browser-recordings').then((m) => m.BrowserRecordings), {
  ssr: false,
});

/** Lessons below the first one, at a time. */
const PAGE_SIZE = 12;

/** Home: what is in the making, its state and what to do next. */
export function LessonsPage({
  lessons,
  freeBytes,
  differs,
}: {
  lessons: LessonView[];
  freeBytes: number;
  /** Why database and media folder do not belong together; null when they do. */
  differs: string | null;
}) {
  const [wanted, setWanted] = useState('');
  const news = useStore(uploadNews, ({ news }) => news);
  useEffect(startUploader, []);
  const [order, setOrder] = useState<LessonOrder>('recent');
  const [first, ...rest] = findLessons(lessons, wanted, order);
  const waiting = (news?.takes ?? []).filter(({ live }) => !live);
  return (
    <main>
      <SafetyVerdict lessons={lessons} freeBytes={freeBytes} differs={differs} news={news} />
      {waiting.length > 0 && <BrowserRecordings recordings={waiting} />}
      <Flex className="title" wrap align="center" gap={12}>
        <h1 className="grow">Lessons in the making</h1>
        {lessons.length > 1 && (
          <Select
            aria-label="Order of lessons"
            value={order}
            onChange={setOrder}
            options={[...LESSON_ORDERS]}
            popupMatchSelectWidth={false}
          />
        )}
        {lessons.length > 1 && (
          <Input
            style={{ width: 248 }}
            placeholder="Find a lesson or a take"
            aria-label="Find a lesson or a take"
            allowClear
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
          />
        )}
        <ButtonLink href="/rigs">Rigs</ButtonLink>
        <ButtonLink href="/bin">Bin</ButtonLink>
        <NewLesson first={lessons.length === 0} />
      </Flex>
      {lessons.length === 0 && (
        <p className="panel mute">
          No lesson yet. <b>New lesson</b> makes one and opens its set-up; the practice desk lets you record
          without any device.
        </p>
      )}
      {lessons.length > 0 && !first && (
        <p className="panel mute">No lesson and no take has “{wanted}” in its title.</p>
      )}
      {first && <FirstLesson lesson={first} wanted={wanted} />}
      {/* In another order, and for another search, it begins on its first page. */}
      <FurtherLessons key={`${order} ${wanted}`} lessons={rest} wanted={wanted} />
    </main>
  );
}

/** All lessons but the first, some at a time. */
function FurtherLessons({ lessons, wanted }: { lessons: LessonView[]; wanted: string }) {
  const [page, setPage] = useState(1);
  // The last lesson of the last page may have been deleted.
  const current = Math.max(1, Math.min(page, Math.ceil(lessons.length / PAGE_SIZE)));
  return (
    <section aria-label="Further lessons">
      <Row gutter={[14, 14]} style={{ paddingTop: 14 }}>
        {lessons.slice((current - 1) * PAGE_SIZE, current * PAGE_SIZE).map((lesson) => (
          <Col key={lesson.id} xs={24} md={12}>
            <LessonCard lesson={lesson} wanted={wanted} />
          </Col>
        ))}
      </Row>
      <Pagination
        style={{ paddingTop: 14 }}
        align="end"
        hideOnSinglePage
        showSizeChanger={false}
        current={current}
        pageSize={PAGE_SIZE}
        total={lessons.length}
        onChange={setPage}
      />
    </section>
  );
}

function FirstLesson({ lesson, wanted }: { lesson: LessonView; wanted: string }) {
  const take = lesson.takes[0];
  return (
    <article className="panel first">
      <Row gutter={[32, 14]} align="middle">
        <Col xs={24} md={10} xxl={7}>
          <Thumbnail lesson={lesson} />
        </Col>
        <Col xs={24} md={14} xxl={17}>
          <Said lesson={lesson} wanted={wanted} />
          <div className="row">
            <SmallStones lesson={lesson} />
            <span className="fig">{STAGES.find((s) => s.key === lesson.stage)?.name}</span>
          </div>
          <div className="row">
            <NextLink lesson={lesson} main />
            {take && <ButtonLink href={`/takes/${take.id}`}>Play the take</ButtonLink>}
            <More lesson={lesson} />
          </div>
        </Col>
      </Row>
    </article>
  );
}

function LessonCard({ lesson, wanted }: { lesson: LessonView; wanted: string }) {
  return (
    <article className="panel lesson">
      <Row gutter={[20, 10]}>
        <Col xs={24} lg={9} xl={7}>
          <Thumbnail lesson={lesson} />
        </Col>
        <Col xs={24} lg={15} xl={17}>
          <Said lesson={lesson} wanted={wanted} />
          <div className="row">
            <SmallStones lesson={lesson} />
            <NextLink lesson={lesson} />
            <More lesson={lesson} />
          </div>
        </Col>
      </Row>
    </article>
  );
}

/** What there is to say of a lesson, in its card. */
function Said({ lesson, wanted }: { lesson: LessonView; wanted: string }) {
  return (
    <>
      <h2>{lesson.title}</h2>
      <p className="state">{stateSentence(lesson)}</p>
      <Missed lesson={lesson} />
      <FoundTakes lesson={lesson} wanted={wanted} />
    </>
  );
}

/** The takes that were looked for. */
function FoundTakes({ lesson, wanted }: { lesson: LessonView; wanted: string }) {
  const found = foundTakes(lesson, wanted);
  if (found.length === 0) return null;
  return (
    <p className="small">
      Takes:{' '}
      {found.map(({ id, title }, i) => (
        <span key={id}>
          {i > 0 && ', '}
          <PageLink href={`/takes/${id}`}>{title}</PageLink>
        </span>
      ))}
    </p>
  );
}

/** What is rarely wanted of a lesson. */
function More({ lesson: { id, title } }: { lesson: LessonView }) {
  const router = useRouter();
  const told = useTold();
  const { notification } = App.useApp();
  const setDeleted = async (deleted: boolean) => {
    if (!(await told(fetchJson('PATCH', `/api/lessons/${id}`, { deleted })))) return false;
    router.refresh();
    return true;
  };
  const remove = async () => {
    if (!(await setDeleted(true))) return;
    notification.open({
      key: id,
      title: `“${title}” was moved to the bin.`,
      description: 'It can be restored for 30 days. Its links do not work until then.',
      duration: 20,
      placement: 'bottomLeft',
      actions: (
        <Button
          onClick={async () => {
            if (await setDeleted(false)) notification.destroy(id);
          }}
        >
          Undo
        </Button>
      ),
    });
  };
  return (
    <Dropdown
      trigger={['click']}
      menu={{ items: [{ key: 'delete', label: 'Delete the lesson', danger: true, onClick: remove }] }}
    >
      <Button type="text" icon={<EllipsisOutlined />} aria-label={`More for ${title}`} />
    </Dropdown>
  );
}

/** Whoever was away when a take was to begin sees here that it did not. */
function Missed({ lesson: { id, missed } }: { lesson: LessonView }) {
  if (!missed) return null;
  return (
    <p className="small amber">
      A scheduled take is missing. {missed}{' '}
      <PageLink href={`/lessons/${id}/record`}>
        <u>See the list</u>
      </PageLink>
    </p>
  );
}

function NextLink({ lesson, main = false }: { lesson: LessonView; main?: boolean }) {
  const words = {
    'set-up': 'Continue setup',
    rehearse: 'Rehearse',
    record: 'Continue recording',
    edit: 'Edit',
    'hand-over': 'Hand over',
  };
  return (
    // A long list would have the server draw the pages behind every one of them.
    <ButtonLink type={main ? 'primary' : 'default'} href={`/lessons/${lesson.id}/${lesson.stage}`}>
      {words[lesson.stage]}
      {!main && <span className="sr-only">: {lesson.title}</span>}
    </ButtonLink>
  );
}

function Thumbnail({ lesson }: { lesson: LessonView }) {
  const take = lesson.takes.find((t) => t.hasThumbnail);
  if (!take)
    return (
      <Flex className="thumb small mute" align="center" justify="center">
        {lesson.takes.length > 0 ? 'picture not ready yet' : 'nothing recorded yet'}
      </Flex>
    );
  return (
    <img
      className="thumb"
      src={`/api/media/${take.id}/thumbnail.jpg`}
      alt={`Last frame of ${take.title}`}
      loading="lazy"
    />
  );
}

function stateSentence(lesson: LessonView): string {
  const take = lesson.takes[0];
  if (!take) {
    const source = lesson.rig.picture.source;
    const aimed =
      source.from === 'practice'
        ? 'the practice desk'
        : source.from === 'none'
          ? 'nothing to be seen'
          : `a ${source.meant}`;
    const parts = [lesson.rig.voice && 'voice', lesson.rig.camera && 'camera'].filter(Boolean);
    return `Aimed at ${aimed}, ${parts.length > 0 ? `with ${parts.join(' and ')}` : 'picture only'}.`;
  }
  const length = take.durationUs === null ? '' : `, ${clockText(take.durationUs)} long`;
  return `${take.title}${length}, ${take.withCamera ? 'with camera' : 'no camera'}.`;
}

function NewLesson({ first }: { first: boolean }) {
  const router = useRouter();
  const told = useTold();
  const [making, setMaking] = useState(false);
  const create = async () => {
    setMaking(true);
    const lesson = fetchJson<LessonView>('POST', '/api/lessons', { title: 'Untitled lesson' });
    await told(lesson.then(({ id }) => router.push(`/lessons/${id}/set-up`)));
    setMaking(false);
  };
  return (
    <Button type={first ? 'primary' : 'default'} onClick={create} disabled={making}>
      New lesson
    </Button>
  );
}
