import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { Cut } from '@/core/cut/cut';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import type { ParcelView } from '@/core/views/parcel';
import { dataDir, rows } from './processes';

export const destination = (id: string) => DESTINATIONS.find((each) => each.id === id) as Destination;
/** A finished file of a parcel, by default its first. */
export const fileOf = (parcel: ParcelView, name = parcel.facts?.files[0]?.name ?? '') =>
  join(dataDir(), 'media', 'parcels', parcel.id, name);

/** A lesson's cut as the server has it. @throws when it has none */
export async function storedCut(lesson: string): Promise<Cut> {
  const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [lesson]);
  return Cut.parse(row?.document);
}

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
  const answer = await page.request.post(url, { data: { destination: to } });
  expect(answer.ok(), await answer.text()).toBe(true);
  const parcel: ParcelView = await answer.json();
  const look = async (): Promise<ParcelView> =>
    (await page.request.get(`${process.env.BASE_URL}/api/parcels/${parcel.id}`)).json();
  await expect.poll(async () => (await look()).job?.state, { timeout: 120_000 }).toBe('done');
  return look();
}

/** The rules that the files of a parcel break. */
export const broken = (parcel: ParcelView) =>
  parcel.facts?.files.flatMap(({ name, rules }) =>
    rules.filter(({ met }) => !met).map(({ rule, measured }) => `${name} ${rule} ${measured}`),
  );
