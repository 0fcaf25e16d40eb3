import { notFound } from 'next/navigation';
import { LessonId } from '@/core/base/ids';
import { readEdit } from '@/server/cuts/cuts';
import { EditStage } from '@/ui/edit/edit-stage';

export default async function Page({ params }: { params: Promise<{ lesson: string }> }) {
  const id = LessonId.safeParse((await params).lesson);
  if (!id.success) notFound();
  return <EditStage page={await readEdit(id.data)} />;
}
