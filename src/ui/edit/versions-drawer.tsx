'use client';

import { Button, Drawer, Table, Tag } from 'antd';
import { clockText } from '@/core/base/figures';
import type { CutVersionView } from '@/core/views/edit-page';

/** The saved states of a cut, newest first. */
export function VersionsDrawer(props: {
  versions: readonly CutVersionView[];
  onClose: () => void;
  onRestore: (revision: number) => void;
}) {
  const { versions, onClose, onRestore } = props;
  return (
    <Drawer title="Versions of this cut" open size={560} onClose={onClose}>
      <p className="mute">
        Every change is saved and kept for 30 days. A cut that was replaced by another take is kept for good.
      </p>
      <Table
        dataSource={[...versions]}
        rowKey="revision"
        size="small"
        pagination={versions.length > 20 ? { pageSize: 20, showSizeChanger: false } : false}
        columns={[
          {
            title: 'Saved',
            dataIndex: 'savedAt',
            render: (at: string) =>
              new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'medium' }),
          },
          {
            title: 'Change',
            key: 'change',
            render: (_, { change, pinned }) => (
              <>
                {change} {pinned && <Tag>replaced</Tag>}
              </>
            ),
          },
          { title: 'Steps', dataIndex: 'steps', align: 'right' },
          { title: 'Length', dataIndex: 'lengthUs', align: 'right', render: clockText },
          {
            title: <span className="sr-only">Actions</span>,
            key: 'restore',
            render: (_, { revision, savedAt }, i) =>
              i === 0 ? (
                <span className="mute">current</span>
              ) : (
                <Button
                  size="small"
                  aria-label={`Restore the version from ${new Date(savedAt).toLocaleTimeString('en-GB')}`}
                  onClick={() => onRestore(revision)}
                >
                  Restore
                </Button>
              ),
          },
        ]}
      />
    </Drawer>
  );
}
