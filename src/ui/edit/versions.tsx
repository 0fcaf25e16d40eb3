import { Button, Drawer, Table, Tag } from 'antd';
import { useState } from 'react';
import type { Cut } from '@/core/cut/cut';
import type { CutVersionView } from '@/core/cut/edit-page';
import { clockText } from '@/core/figures';
import type { LessonId } from '@/core/ids';
import { fetchJson } from '../shared/fetch-json';
import { useTold } from '../shared/use-told';

/** Every saved state of the cut, and the way back to each. */
export function Versions({
  lesson,
  load,
  onRestore,
}: {
  lesson: LessonId;
  /** The saved states as the server has them now. */
  load: () => Promise<CutVersionView[]>;
  onRestore: (cut: Cut) => void;
}) {
  const told = useTold();
  const [versions, setVersions] = useState<CutVersionView[] | null>(null);
  const open = () => told(load().then(setVersions));
  const restore = (revision: number) =>
    told(
      fetchJson<{ cut: Cut }>('GET', `/api/lessons/${lesson}/cut/versions/${revision}`).then(({ cut }) => {
        onRestore(cut);
        setVersions(null);
      }),
    );
  return (
    <>
      <Button onClick={open}>Versions</Button>
      <Drawer
        title="Versions of this cut"
        open={versions !== null}
        size={560}
        onClose={() => setVersions(null)}
      >
        <p className="mute">
          Every change is saved and kept for 30 days. A cut that was replaced by another take is kept for
          good.
        </p>
        <Table
          dataSource={versions ?? []}
          rowKey="revision"
          size="small"
          pagination={(versions?.length ?? 0) > 20 ? { pageSize: 20, showSizeChanger: false } : false}
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
                    onClick={() => restore(revision)}
                  >
                    Restore
                  </Button>
                ),
            },
          ]}
        />
      </Drawer>
    </>
  );
}
