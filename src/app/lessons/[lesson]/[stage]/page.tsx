import { notFound } from 'next/navigation';
import { LessonId } from '@/core/ids';
import { STAGES } from '@/core/lesson';
import { readEdit } from '@/server/cuts';
import { readHandOver } from '@/server/parcels';
import { EditStage } from '@/ui/edit/edit-stage';
import { HandOverStage } from '@/ui/hand-over/hand-over-stage';
import { ComingStage } from '@/ui/lesson/coming-stage';
import { RecordStage } from '@/ui/record/record-stage';
import { SetUpStage } from '@/ui/set-up/set-up-stage';

type Props = { params: Promise<{ lesson: string; stage: string }> };

export default async function Page({ params }: Props) {
  const { lesson, stage } = await params;
  const known = STAGES.find(({ key }) => key === stage);
  if (!known) notFound();
  if (known.key === 'set-up') return <SetUpStage />;
  if (known.key === 'record') return <RecordStage />;
  if (known.key === 'edit') {
    const id = LessonId.safeParse(lesson);
    if (!id.success) notFound();
    return <EditStage page={await readEdit(id.data)} />;
  }
  if (known.key === 'hand-over') {
    const id = LessonId.safeParse(lesson);
    if (!id.success) notFound();
    return <HandOverStage page={await readHandOver(id.data)} />;
  }
  return <ComingStage stage={known.key} />;
}
