'use client';

import Link from 'next/link';
import type { EditPage } from '@/core/cut/edit-page';
import { useRoom } from '../lesson/lesson-room';
import { Verdict } from '../shared/verdict';
import { EditRoom } from './edit-room';

/** Edit: the steps, the picture, the time strip. */
export function EditStage({ page }: { page: EditPage }) {
  const { lesson } = useRoom();
  if (page.cut) return <EditRoom page={{ ...page, cut: page.cut }} />;
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
