'use client';

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Flex, Table, Tag, Typography } from 'antd';
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
            title: 'Take',
            key: 'title',
            rowScope: 'row',
            render: (_, { id, title, inCut, deleted }) => (
              <Flex gap={8} align="center" wrap>
                {deleted || id === here ? (
                  <span aria-current={id === here ? 'page' : undefined}>{title}</span>
                ) : (
                  <PageLink href={`/takes/${id}`}>{title}</PageLink>
                )}
                {!deleted && id !== here && (
                  <Typography.Text
                    editable={{
                      text: title,
                      tooltip: false,
                      onChange: (next) =>
                        next.trim() !== '' && next.trim() !== title && change(id, { title: next.trim() }),
                    }}
                    aria-label={`Rename ${title}`}
                  />
                )}
                {inCut && <Tag>in the cut</Tag>}
                {id === here && <Tag>this page</Tag>}
              </Flex>
            ),
          },
          {
            title: 'Recorded',
            dataIndex: 'startedAt',
            render: (at: string) =>
              new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }),
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
          {
            title: <span className="sr-only">Actions</span>,
            key: 'acts',
            align: 'right',
            render: (_, { id, title, state, deleted }) =>
              deleted ? (
                <Button
                  size="small"
                  aria-label={`Restore ${title}`}
                  onClick={() => change(id, { deleted: false })}
                >
                  Restore
                </Button>
              ) : (
                state !== 'recording' &&
                state !== 'uploading' && (
                  <Button
                    size="small"
                    type="text"
                    aria-label={`Delete ${title}`}
                    onClick={() => change(id, { deleted: true })}
                  >
                    Delete
                  </Button>
                )
              ),
          },
        ]}
      />
    </section>
  );
}
