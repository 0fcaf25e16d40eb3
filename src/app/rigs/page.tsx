import { cookies } from 'next/headers';
import { LessonId } from '@/core/base/ids';
import { readLesson } from '@/server/lessons/lessons';
import { listRigs } from '@/server/lessons/rigs';
import { lightOf } from '@/ui/look/light';
import { Bank } from '@/ui/page/bank';
import { RigsPage } from '@/ui/rigs/rigs-page';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Rigs' };

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

/** The named rigs. `?a=…&b=…` compares two of them; each is a rig or a lesson, whose own rig is meant then. */
export default async function Page({ searchParams }: Props) {
  const [{ a, b }, rigs, jar] = await Promise.all([searchParams, listRigs(), cookies()]);
  const named = async (id: string | string[] | undefined) => {
    const rig = rigs.find((each) => each.id === id);
    if (rig) return { id: rig.id as string, name: rig.name, rig: rig.rig };
    const lessonId = LessonId.safeParse(id);
    const lesson = lessonId.success ? await readLesson(lessonId.data) : null;
    return lesson && { id: lesson.id as string, name: `Lesson “${lesson.title}”`, rig: lesson.rig };
  };
  return (
    <>
      <Bank light={lightOf(jar.get('light')?.value)} title={<h1>Rigs</h1>} />
      <RigsPage rigs={rigs} left={await named(a)} right={await named(b)} />
    </>
  );
}
