'use client';

import { App } from 'antd';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { cutOfTake, type EditPage } from '@/core/cut/edit-page';
import { problemOf } from '@/core/problem';
import { useRoom } from '../lesson/lesson-room';
import { fetchJson } from '../shared/fetch-json';
import { Verdict } from '../shared/verdict';
import { EditRoom } from './edit-room';

/** Edit: the steps, the picture, the time strip. */
export function EditStage({ page }: { page: EditPage }) {
  const { lesson } = useRoom();
  const router = useRouter();
  const { message } = App.useApp();
  const there = new Set<string>(page.takes.map(({ id }) => id));
  const missing = page.cut?.steps.flatMap(({ pieces }) => pieces).find(({ take }) => !there.has(take));
  if (page.cut && !missing) return <EditRoom key={page.revision} page={{ ...page, cut: page.cut }} />;
  const told = (work: Promise<unknown>) =>
    work.then(
      () => router.refresh(),
      (error) => message.error(problemOf(error).message),
    );
  const [newest] = page.takes;
  if (missing)
    return (
      <main>
        <Verdict
          kind="warn"
          sentence="A take that this video is made of was deleted."
          detail="Its recording is still there: bring it back, or begin with another take."
        >
          {newest && (
            <button
              type="button"
              className="act"
              onClick={() =>
                told(
                  fetchJson('PUT', `/api/lessons/${lesson.id}/cut`, {
                    cut: cutOfTake(newest),
                    revision: page.revision,
                  }),
                )
              }
            >
              Begin with {newest.title}
            </button>
          )}
          <button
            type="button"
            className="act main"
            onClick={() => told(fetchJson('PATCH', `/api/takes/${missing.take}`, { deleted: false }))}
          >
            Bring it back
          </button>
        </Verdict>
      </main>
    );
  return (
    <main>
      <Verdict
        kind="good"
        sentence="There is no take to cut yet."
        detail="Record one; it can be cut as soon as you have stopped."
      >
        <Link className="act main" href={`/lessons/${lesson.id}/record`}>
          Record
        </Link>
      </Verdict>
    </main>
  );
}
