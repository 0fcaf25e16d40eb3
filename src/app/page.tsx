import { cookies } from 'next/headers';
import { pairingSentence } from '@/core/keeping/pairing';
import { readPairing } from '@/server/keeping/pairing';
import { listLessons } from '@/server/lessons/lessons';
import { health } from '@/server/maintenance/health';
import { LessonsPage } from '@/ui/lessons/lessons-page';
import { lightOf } from '@/ui/look/light';
import { Bank } from '@/ui/page/bank';

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
