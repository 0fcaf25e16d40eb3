import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newStepId, type TakeId } from '@/core/base/ids';
import { type Cut, defaultCut } from '@/core/cut/cut';
import { launch, withProfile } from './browser';
import { dataDir, rows } from './processes';
import { armed, FULL_CARD_RIG, finished, lessonOf, recordFor } from './studio';

export type Filmed = { lesson: string; takeId: TakeId; folder: string; whole: Cut };

/** What was filmed before on this database, if its take is still there. */
async function known(notes: string): Promise<Filmed | null> {
  if (!existsSync(notes)) return null;
  const filmed: Filmed = JSON.parse(readFileSync(notes, 'utf8'));
  const [take] = await rows('select id from take where id = $1 and deleted_at is null', [filmed.takeId]);
  return take ? filmed : null;
}

async function film(): Promise<Filmed> {
  return withProfile(async (profile) => {
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    await armed(page, FULL_CARD_RIG);
    const lesson = lessonOf(page);
    const { takeId, folder } = await recordFor(page, 11_000);
    await finished(page);
    await context.close();
    const [take] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [
      takeId,
    ]);
    const whole = defaultCut(newStepId(), {
      id: takeId as TakeId,
      durationUs: Number(take?.duration_us),
      camera: FULL_CARD_RIG.camera?.place ?? null,
      gains: { voiceDb: 0, appSoundDb: 0 },
    });
    return { lesson, takeId: takeId as TakeId, folder, whole };
  });
}

/** A take of the test card with camera and both sounds, finished, and the cut of all of it: made once for all that need nothing else. */
export async function filmedOnce(): Promise<Filmed> {
  const notes = join(dataDir(), 'filmed.json');
  const filmed = (await known(notes)) ?? (await film());
  writeFileSync(notes, JSON.stringify(filmed));
  return filmed;
}
