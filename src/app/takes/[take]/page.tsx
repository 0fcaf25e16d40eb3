import { cookies } from 'next/headers';
import { notFound } from 'next/navigation';
import { TakeId } from '@/core/base/ids';
import { readTake } from '@/server/takes/takes';
import { lightOf } from '@/ui/look/light';
import { ArrivingTake } from '@/ui/take/arriving-take';
import { TakeRoom } from '@/ui/take/take-room';

export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ take: string }> };

export async function generateMetadata({ params }: Props) {
  const id = TakeId.safeParse((await params).take);
  const take = id.success ? await readTake(id.data) : null;
  return { title: take ? `${take.title} of ${take.lesson.title}` : 'Take' };
}

export default async function Page({ params }: Props) {
  const id = TakeId.safeParse((await params).take);
  if (!id.success) notFound();
  const light = lightOf((await cookies()).get('light')?.value);
  const take = await readTake(id.data);
  // A take is known to the server a moment after it was begun; until then it is in the browser's journal.
  return take ? <TakeRoom take={take} light={light} /> : <ArrivingTake id={id.data} light={light} />;
}
