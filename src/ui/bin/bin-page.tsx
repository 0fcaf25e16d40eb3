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

/** What it is called, and which lessons still show it. */
const Name = ({ title, usedIn }: BinEntry) => (
  <>
    <b>{title}</b>
    {usedIn.length > 0 && (
      <div className="small mute">Used in {usedIn.map((lesson) => `“${lesson}”`).join(', ')}</div>
    )}
  </>
);

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
          style={{ marginTop: 14 }}
          dataSource={entries}
          rowKey={({ kind, id }) => `${kind} ${id}`}
          pagination={entries.length > 50 ? { pageSize: 50 } : false}
          columns={[
            { title: 'Kind', dataIndex: 'kind', render: (kind: BinEntry['kind']) => KINDS[kind] },
            { title: 'Name', dataIndex: 'title', render: (_, entry) => <Name {...entry} /> },
            { title: 'Lesson', dataIndex: 'lesson', render: (lesson: string | null) => lesson ?? '' },
            {
              title: 'Size',
              dataIndex: 'bytes',
              align: 'right',
              sorter: (a, b) => a.bytes - b.bytes,
              render: bytesText,
            },
            { title: 'Deleted', dataIndex: 'deletedAt', render: dayText },
            {
              title: 'Kept until',
              dataIndex: 'keptUntil',
              render: (day: string, { usedIn }) => (usedIn.length > 0 ? 'No longer used' : dayText(day)),
            },
            {
              title: <span className="sr-only">Actions</span>,
              key: 'actions',
              render: (_, entry) => (
                <Actions
                  entry={entry}
                  onRestore={() => act('POST', entry)}
                  onDelete={() => act('DELETE', entry)}
                />
              ),
            },
          ]}
        />
      )}
    </main>
  );
}

function Actions(props: { entry: BinEntry; onRestore: () => void; onDelete: () => void }) {
  const { entry, onRestore, onDelete } = props;
  return (
    <Space>
      <Button onClick={onRestore} aria-label={`Restore ${entry.title}`}>
        Restore
      </Button>
      <Popconfirm
        disabled={entry.usedIn.length > 0}
        title={`Delete “${entry.title}” for good?`}
        description={
          entry.kind === 'parcel'
            ? 'Its files are removed from the disk. This cannot be undone.'
            : 'Its recordings are removed from the disk. This cannot be undone.'
        }
        okText="Delete for good"
        okButtonProps={{ danger: true }}
        onConfirm={onDelete}
      >
        <Button
          danger
          type="text"
          disabled={entry.usedIn.length > 0}
          aria-label={`Delete ${entry.title} for good`}
        >
          Delete for good
        </Button>
      </Popconfirm>
    </Space>
  );
}
