import { notFound } from 'next/navigation';
import { LessonId, TakeId } from '@/core/base/ids';
import { readEdit } from '@/server/cuts/cuts';
import { EditStage } from '@/ui/edit/edit-stage';

type Props = {
  params: Promise<{ lesson: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function Page({ params, searchParams }: Props) {
  const id = LessonId.safeParse((await params).lesson);
  if (!id.success) notFound();
  const added = TakeId.safeParse((await searchParams).brought);
  return <EditStage page={await readEdit(id.data, added.success ? added.data : null)} />;
}
