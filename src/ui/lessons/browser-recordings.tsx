'use client';

import { App, Button, Popconfirm, Progress, Space, Table } from 'antd';
import { bytesText } from '@/core/base/figures';
import { LESSON_GONE } from '@/core/recording/upload';
import { recordingFiles } from '@/recorder/save-recording';
import type { WaitingRecording } from '@/recorder/uploader/messages';
import { adoptTake, deleteRecording, hurryUploader, recoverTake } from '@/recorder/uploader/uploader';
import { saveFile } from '../wire/save-file';

const dateText = (iso: string) =>
  iso === '' ? 'unknown' : new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** The recordings of which something is only in this browser, with what can be done about each. */
export function BrowserRecordings({ recordings }: { recordings: readonly WaitingRecording[] }) {
  return (
    <section className="browser-recordings" aria-labelledby="browser-recordings">
      <h2 id="browser-recordings">Only in this browser</h2>
      <Table
        dataSource={[...recordings]}
        rowKey="key"
        size="small"
        pagination={false}
        columns={[
          { title: 'Recorded', dataIndex: 'startedAt', render: dateText },
          { title: 'Size', dataIndex: 'localBytes', align: 'right', render: bytesText },
          { title: 'State', key: 'state', render: (_, recording) => <State recording={recording} /> },
          {
            title: <span className="sr-only">Actions</span>,
            key: 'actions',
            render: (_, recording) => <Actions recording={recording} />,
          },
        ]}
      />
    </section>
  );
}

function State({ recording: { problem, localBytes, sentBytes } }: { recording: WaitingRecording }) {
  if (problem)
    return (
      <>
        {problem.message} <span className="mute">{problem.hint}</span>
      </>
    );
  return (
    <Progress
      percent={Math.round((100 * sentBytes) / Math.max(1, localBytes))}
      size="small"
      aria-label="Sent"
      style={{ maxWidth: 240 }}
    />
  );
}

function Actions({ recording }: { recording: WaitingRecording }) {
  const { key, problem, startedAt } = recording;
  const { message } = App.useApp();
  const save = async () => {
    try {
      for (const { name, file } of await recordingFiles(key)) saveFile(name, file);
    } catch (error) {
      message.error(error instanceof Error ? error.message : String(error));
    }
  };
  const isUnreadable = problem?.code === 'journal-damaged' || problem?.code === 'journal-newer';
  return (
    <Space wrap>
      {problem?.code === LESSON_GONE && <Button onClick={() => adoptTake(key)}>Save in a new lesson</Button>}
      {isUnreadable && <Button onClick={() => recoverTake(key)}>Recover</Button>}
      {problem && !isUnreadable && problem.code !== LESSON_GONE && (
        <Button onClick={hurryUploader}>Try again now</Button>
      )}
      {problem && <Button onClick={save}>Save files</Button>}
      {problem && (
        <Popconfirm
          title="Delete this recording from the browser?"
          description={`The recording from ${dateText(startedAt)} is nowhere else. This cannot be undone.`}
          okText="Delete"
          okButtonProps={{ danger: true }}
          onConfirm={() => deleteRecording(key)}
        >
          <Button danger>Delete</Button>
        </Popconfirm>
      )}
    </Space>
  );
}
