'use client';

import { Button, Empty, Popconfirm, Space, Table } from 'antd';
import { useRouter } from 'next/navigation';
import { bytesText } from '@/core/base/figures';
import type { BinEntry } from '@/core/keeping/bin';
import { KEEP_DAYS } from '@/core/keeping/trash';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';

const KINDS: Record<BinEntry['kind'], string> = { lesson: 'Lesson', take: 'Take', parcel: 'Parcel' };
const dayText = (iso: string) => new Date(iso).toLocaleDateString('en-GB', { dateStyle: 'medium' });

/** What was deleted, with its size, and how to put it back. */
export function BinPage({ entries }: { entries: BinEntry[] }) {
  const router = useRouter();
  const told = useTold();
  const bytes = entries.reduce((sum, entry) => sum + entry.bytes, 0);
  const act = async (method: 'POST' | 'DELETE', { kind, id }: BinEntry) => {
    if (await told(fetchJson(method, `/api/bin/${kind}/${id}`))) router.refresh();
  };
  return (
    <main>
      <Verdict
        kind="good"
        sentence={
          entries.length === 0
            ? 'The bin is empty.'
            : `The bin holds ${bytesText(bytes)} on the server’s disk.`
        }
        detail={`Everything here can be restored for ${KEEP_DAYS} days after it was deleted. A revoked link stays revoked.`}
      >
        <ButtonLink href="/">All lessons</ButtonLink>
      </Verdict>
      {entries.length === 0 ? (
        <Empty
          className="bin-empty"
          image={Empty.PRESENTED_IMAGE_SIMPLE}
          description="Lessons, takes and parcels that you delete come here."
        />
      ) : (
        <Table
          className="bin"
          dataSource={entries}
          rowKey={({ kind, id }) => `${kind} ${id}`}
          pagination={entries.length > 50 ? { pageSize: 50 } : false}
          columns={[
            { title: 'Kind', dataIndex: 'kind', render: (kind: BinEntry['kind']) => KINDS[kind] },
            { title: 'Name', dataIndex: 'title', render: (title: string) => <b>{title}</b> },
            { title: 'Lesson', dataIndex: 'lesson', render: (lesson: string | null) => lesson ?? '' },
            {
              title: 'Size',
              dataIndex: 'bytes',
              align: 'right',
              sorter: (a, b) => a.bytes - b.bytes,
              render: bytesText,
            },
            { title: 'Deleted', dataIndex: 'deletedAt', render: dayText },
            { title: 'Kept until', dataIndex: 'keptUntil', render: dayText },
            {
              title: <span className="sr-only">Actions</span>,
              key: 'actions',
              render: (_, entry) => (
                <Space>
                  <Button onClick={() => act('POST', entry)} aria-label={`Restore ${entry.title}`}>
                    Restore
                  </Button>
                  <Popconfirm
                    title={`Delete “${entry.title}” for good?`}
                    description={
                      entry.kind === 'parcel'
                        ? 'Its files are removed from the disk. This cannot be undone.'
                        : 'Its recordings are removed from the disk. This cannot be undone.'
                    }
                    okText="Delete for good"
                    okButtonProps={{ danger: true }}
                    onConfirm={() => act('DELETE', entry)}
                  >
                    <Button danger type="text" aria-label={`Delete ${entry.title} for good`}>
                      Delete for good
                    </Button>
                  </Popconfirm>
                </Space>
              ),
            },
          ]}
        />
      )}
    </main>
  );
}
