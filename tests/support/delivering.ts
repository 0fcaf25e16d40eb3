import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { type Cut, defaultCut } from '@/core/cut/cut';
import { DESTINATIONS, type Destination } from '@/core/destination';
import { newStepId, type TakeId } from '@/core/ids';
import type { ParcelView } from '@/core/parcel';
import { launch, withProfile } from './browser';
import { rows } from './processes';
import { armed, FULL_CARD_RIG, finished, recordFor, test } from './studio';

export const dataDir = () => process.env.DATA_DIR ?? '.data';
export const destination = (id: string) => DESTINATIONS.find((each) => each.id === id) as Destination;
export const lessonOf = (page: Page) => new URL(page.url()).pathname.split('/')[2] ?? '';
/** A finished file of a parcel, by default its first. */
export const fileOf = (parcel: ParcelView, name = parcel.facts?.files[0]?.name ?? '') =>
  join(dataDir(), 'media', 'parcels', parcel.id, name);

/** Puts a cut in the place of the lesson's. */
export async function saveCut(page: Page, lesson: string, cut: Cut): Promise<void> {
  const [row] = await rows<{ revision: number }>('select revision from cut where lesson_id = $1', [lesson]);
  const url = `${process.env.BASE_URL}/api/lessons/${lesson}/cut`;
  const answer = await page.request.put(url, { data: { cut, revision: row?.revision ?? 0 } });
  expect(answer.ok(), await answer.text()).toBe(true);
}

/** Makes a parcel through the server and waits for it. */
export async function made(page: Page, lesson: string, to: Destination): Promise<ParcelView> {
  const url = `${process.env.BASE_URL}/api/lessons/${lesson}/parcels`;
  const parcel: ParcelView = await (await page.request.post(url, { data: { destination: to } })).json();
  const look = async (): Promise<ParcelView> =>
    (await page.request.get(`${process.env.BASE_URL}/api/parcels/${parcel.id}`)).json();
  await expect.poll(async () => (await look()).job?.state, { timeout: 120_000 }).toBe('done');
  return look();
}

type Filmed = { lesson: string; takeId: TakeId; folder: string; whole: Cut };

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

/**
 * A take of the test card with camera and both sounds, finished, and the cut of all of it: made once for all that need nothing else.
 * Those are run one after the other, because a lesson has one cut.
 */
export const delivering = test.extend<object, { filmed: Filmed }>({
  filmed: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
    async ({}, use) => {
      const notes = join(dataDir(), 'filmed.json');
      const filmed = (await known(notes)) ?? (await film());
      writeFileSync(notes, JSON.stringify(filmed));
      await use(filmed);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

/** The rules that the files of a parcel break. */
export const broken = (parcel: ParcelView) =>
  parcel.facts?.files.flatMap(({ name, rules }) =>
    rules.filter(({ met }) => !met).map(({ rule, measured }) => `${name} ${rule} ${measured}`),
  );
