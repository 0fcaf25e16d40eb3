import { cookies } from 'next/headers';
import { pairingSentence } from '@/core/keeping/pairing';
import { health } from '@/server/health';
import { listLessons } from '@/server/lessons';
import { readPairing } from '@/server/pairing';
import { LessonsPage } from '@/ui/lessons/lessons-page';
import { Bank } from '@/ui/shared/bank';
import { lightOf } from '@/ui/shared/light';

export const dynamic = 'force-dynamic';

export default async function Page() {
  const [lessons, { freeBytes }, pairing, jar] = await Promise.all([
    listLessons(),
    health(),
    readPairing(),
    cookies(),
  ]);
  return (
    <>
      <Bank light={lightOf(jar.get('light')?.value)} />
      <LessonsPage lessons={lessons} freeBytes={freeBytes} differs={pairingSentence(pairing)} />
    </>
  );
}
