'use client';

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Flex, Table, type TableColumnsType, Tag, Typography } from 'antd';
import { bytesText, clockText } from '@/core/base/figures';
import type { LessonId, TakeId } from '@/core/base/ids';
import type { TakeListEntry, TakeState } from '@/core/views/lesson';
import { PageLink } from '../page/page-link';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';

const STATES: Record<TakeState, string> = {
  recording: 'recording',
  uploading: 'uploading',
  finishing: 'being finished',
  ready: 'ready',
  failed: 'not finished',
};
const ASKED_EVERY_MS = 5000;

/** Every take of a lesson: opened, renamed, deleted and restored here. */
export function TakesList(props: {
  lesson: LessonId;
  here?: TakeId;
  /** What the page itself shows of its take: when that changes, the list is read again at once, so that the two agree. */
  shown?: string;
}) {
  const { lesson, here, shown } = props;
  const told = useTold();
  const client = useQueryClient();
  const queryKey = ['takes', lesson];
  const { data: takes } = useQuery({
    queryKey: [...queryKey, shown],
    placeholderData: keepPreviousData,
    queryFn: () => fetchJson<TakeListEntry[]>('GET', `/api/lessons/${lesson}/takes`),
    refetchInterval: ASKED_EVERY_MS,
  });
  if (!takes || takes.length === 0) return null;
  const change = async (id: TakeId, part: { title?: string; deleted?: boolean }) => {
    await told(fetchJson('PATCH', `/api/takes/${id}`, part));
    await client.invalidateQueries({ queryKey });
  };
  const kept = takes.filter(({ deleted }) => !deleted).length;
  return (
    <section className="takes" aria-labelledby="takes">
      <h2 id="takes">{kept === 1 ? 'One take' : `${kept} takes`} of this lesson</h2>
      <Table
        size="small"
        pagination={takes.length > 20 ? { pageSize: 20, showSizeChanger: false } : false}
        rowKey="id"
        dataSource={takes}
        rowClassName={({ deleted }) => (deleted ? 'mute' : '')}
        columns={[
          {
            ...{ title: 'Take', key: 'title', rowScope: 'row' },
            render: (_, take) => (
              <TakeName
                take={take}
                isHere={take.id === here}
                onRename={(title) => change(take.id, { title })}
              />
            ),
          },
          ...FACTS,
          {
            ...{ title: <span className="sr-only">Actions</span>, key: 'acts', align: 'right' },
            render: (_, take) => (
              <TakeActs take={take} onDelete={(deleted) => change(take.id, { deleted })} />
            ),
          },
        ]}
      />
    </section>
  );
}

/** What is told of a take, a column each. */
const FACTS: TableColumnsType<TakeListEntry> = [
  {
    title: 'Recorded',
    dataIndex: 'startedAt',
    render: (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }),
  },
  {
    title: 'Length',
    dataIndex: 'durationUs',
    align: 'right',
    render: (us: number | null) => (us === null ? '–' : clockText(us)),
  },
  { title: 'Size', dataIndex: 'bytes', align: 'right', render: bytesText },
  {
    title: 'State',
    key: 'state',
    render: (_, { state, deleted }) => (deleted ? 'in the bin' : STATES[state]),
  },
];

/** The name of a take, by which it is opened, and which can be changed. */
function TakeName(props: { take: TakeListEntry; isHere: boolean; onRename: (title: string) => void }) {
  const { take, isHere, onRename } = props;
  const { id, title, inCut, deleted } = take;
  const rename = (next: string) => {
    const own = next.trim();
    if (own !== '' && own !== title) onRename(own);
  };
  return (
    <Flex gap={8} align="center" wrap>
      {deleted || isHere ? (
        <span aria-current={isHere ? 'page' : undefined}>{title}</span>
      ) : (
        <PageLink href={`/takes/${id}`}>{title}</PageLink>
      )}
      {!deleted && !isHere && (
        <Typography.Text
          editable={{ text: title, tooltip: false, onChange: rename }}
          aria-label={`Rename ${title}`}
        />
      )}
      {inCut && <Tag>in the cut</Tag>}
      {isHere && <Tag>this page</Tag>}
    </Flex>
  );
}

/** Nothing can be done to a take that is on its way. */
function TakeActs({ take, onDelete }: { take: TakeListEntry; onDelete: (deleted: boolean) => void }) {
  const { title, state, deleted } = take;
  if (deleted)
    return (
      <Button size="small" aria-label={`Restore ${title}`} onClick={() => onDelete(false)}>
        Restore
      </Button>
    );
  if (state === 'recording' || state === 'uploading') return null;
  return (
    <Button size="small" type="text" aria-label={`Delete ${title}`} onClick={() => onDelete(true)}>
      Delete
    </Button>
  );
}
