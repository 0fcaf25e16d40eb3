import { notFound } from 'next/navigation';
import { LessonId } from '@/core/base/ids';
import { readHandOver } from '@/server/delivery/parcels';
import { HandOverStage } from '@/ui/hand-over/hand-over-stage';

export default async function Page({ params }: { params: Promise<{ lesson: string }> }) {
  const id = LessonId.safeParse((await params).lesson);
  if (!id.success) notFound();
  return <HandOverStage page={await readHandOver(id.data)} />;
}
