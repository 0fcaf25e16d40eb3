import { cookies } from 'next/headers';
import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { LessonId } from '@/core/base/ids';
import { readLesson } from '@/server/lessons/lessons';
import { LessonRoom } from '@/ui/lesson/lesson-room';
import { lightOf } from '@/ui/look/light';

export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ lesson: string }>; children: ReactNode };

export async function generateMetadata({ params }: Props) {
  const id = LessonId.safeParse((await params).lesson);
  return { title: id.success ? (await readLesson(id.data))?.title : undefined };
}

/** A lesson's room stays while its stages change, and with it the open sources. */
export default async function Layout({ params, children }: Props) {
  const id = LessonId.safeParse((await params).lesson);
  const lesson = id.success ? await readLesson(id.data) : null;
  if (!lesson) notFound();
  const light = lightOf((await cookies()).get('light')?.value);
  return (
    <LessonRoom lesson={lesson} light={light}>
      {children}
    </LessonRoom>
  );
}
