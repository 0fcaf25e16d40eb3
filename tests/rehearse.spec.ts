// Rehearse: what is measured, whose fault it is, one step at a time until nothing is dropped, and a ledger that remembers all of it.
import type { Page } from '@playwright/test';
import { newLessonId } from '@/core/base/ids';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { aReport, slowEncoder } from './support/made-up-rehearsal';
import { rows } from './support/processes';
import { expect, expectAccessible, misbehave, recordFor, slowRecorder } from './support/studio';
import { AT_LENGTH, test } from './support/test';

/** Half as large as the source, where nothing else is said. */
const rigOf = (id: string, fps: number, box: Rig['picture']['box'] = { width: 640, height: 360 }): Rig => ({
  ...PRACTICE_RIG,
  camera: null,
  appSound: null,
  countdownS: 0,
  picture: {
    ...PRACTICE_RIG.picture,
    ...{ source: { from: 'practice', id }, box, fit: 'within' },
    ...{ frameRate: { num: fps, den: 1 }, codec: 'h264', textHint: 'off' },
  },
});

/** Opens Rehearse of a new lesson with this rig, ready to start. @returns the lesson */
async function rehearsing(page: Page, rig: Rig): Promise<string> {
  const base = process.env.BASE_URL;
  const made = await page.request.post(`${base}/api/lessons`, { data: { title: 'Rehearsed' } });
  const { id } = await made.json();
  await page.request.patch(`${base}/api/lessons/${id}`, { data: { rig } });
  await page.goto(`${base}/lessons/${id}/rehearse`);
  await expect(start(page)).toBeEnabled();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  return id;
}

const start = (page: Page) => page.getByRole('button', { name: /^Rehearse( again)?$/ });
const verdict = (page: Page) => page.getByRole('region', { name: 'Verdict' }).locator('p');
const step = (page: Page) => page.getByRole('region', { name: 'Next step' });
const ledger = (page: Page) => page.getByRole('region', { name: 'Ledger' });

/** The ledger as the server keeps it, the newest first. */
const kept = async (page: Page, lesson: string): Promise<RehearsalView[]> =>
  (await page.request.get(`${process.env.BASE_URL}/api/lessons/${lesson}/rehearsals`)).json();

/** Waits until the ledger has so many rows. */
const ended = (page: Page, count: number) =>
  expect(ledger(page).getByRole('button', { name: /^Show rehearsal/ })).toHaveCount(count, {
    timeout: 60_000,
  });

const lasting = (page: Page, seconds: number) =>
  page.getByRole('spinbutton', { name: 'Length' }).fill(String(seconds));

test('a rig that stutters is brought to record without a loss, one step at a time, and the take confirms it', async ({
  studio: page,
}) => {
  // What other programs use of a shared machine is another story.
  await page.route('**/api/load', async (route) => {
    const response = await route.fetch();
    await route.fulfill({ response, json: { ...(await response.json()), processes: [] } });
  });
  // A bed is dragged from the fifth second to the seventh.
  const lesson = await rehearsing(page, rigOf('window-planner', 30));
  // Each frame takes 85 ms: neither 30 nor 15 fps are possible.
  const slow = { role: 'screen', slow: 'encoder', ms: 85 } as const;
  await slowRecorder(page, slow);
  await lasting(page, 8);
  await start(page).click();
  await expect(verdict(page)).toContainText('Rehearsing:');
  await ended(page, 1);
  await expect(verdict(page)).toContainText('The encoder cannot sustain 30 fps');
  await expect(verdict(page)).toContainText(/Encoding takes \d+ ms\/frame/);

  await expect(step(page).getByRole('heading')).toHaveText('Frame rate 15 fps');
  await step(page).getByRole('button', { name: 'Try it' }).click();
  await ended(page, 2);
  await expect(verdict(page)).toContainText('The encoder cannot sustain 15 fps');

  await expect(step(page).getByRole('heading')).toHaveText('Frame rate 10 fps');
  await step(page).getByRole('button', { name: 'Try it' }).click();
  await ended(page, 3);
  await expect(verdict(page)).toContainText('This machine records this rig at 10 fps.');
  await expect(step(page).getByRole('heading')).toHaveText('Nothing to change');

  const [clean, second, first] = await kept(page, lesson);
  expect(first?.diagnosis.faults[0]).toMatchObject({ stage: 'encoder' });
  expect(second?.diagnosis.faults[0]).toMatchObject({ stage: 'encoder' });
  expect(clean?.diagnosis.faults).toEqual([]);
  // Each changed one thing, and the ledger says what.
  for (const text of ['Starting rig', '30 fps → 15 fps', '15 fps → 10 fps'])
    await expect(ledger(page).getByText(text)).toBeVisible();
  // Half of the pixels in each direction: text pays for it, and the ledger says so.
  expect(clean?.clarity?.mean).toBeLessThan(0.9);
  // Every frame that the source made has a fate.
  const { onTime, late, skipped, dropped } = first?.figures ?? { onTime: 0, late: 0, skipped: 0, dropped: 0 };
  expect(onTime + late + skipped + dropped).toBeGreaterThan(30);

  // No take came of it, here or on the server, and the rig of the last step is the lesson's.
  expect(await rows(`select id from take where lesson_id = '${lesson}'`)).toEqual([]);
  await page.getByRole('link', { name: 'Record', exact: true }).first().click();
  await page.waitForURL(/record/);
  await slowRecorder(page, slow);
  const { takeId } = await recordFor(page, 8000);
  // The take's page opens while the end of the take is still on its way.
  const counted = async () => {
    const [take] = await rows<{ ledger: { screen: { askedFps: number; arrived: number } } | null }>(
      `select ledger from take where id = '${takeId}'`,
    );
    return take?.ledger?.screen ?? null;
  };
  await expect.poll(counted).not.toBeNull();
  const screen = await counted();
  expect(screen?.askedFps).toBe(10);
  // The bed was dragged in it as well.
  expect(screen?.arrived).toBeGreaterThan(15);
  await expect(page.getByText(/^Recorded at the target of 10 fps\./)).toBeVisible();
});

test('the ledger survives a reload: frames, comparison, going back to an earlier rig; the film of the newest can be watched', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const lesson = await rehearsing(page, rigOf('desk', 15, null));
  await lasting(page, 6);
  await start(page).click();
  await ended(page, 1);
  const facts = page.getByRole('complementary', { name: 'Selected frame' });
  await facts.getByRole('button', { name: 'Watch at 100 %' }).click();
  const film = page.getByRole('dialog', { name: 'As encoded, at 100 %' });
  const picture = film.getByRole('img', { name: 'Recorded picture' });
  await expect(picture).toBeVisible();
  // It is not empty: pixels of several colours were drawn.
  await expect
    .poll(() =>
      picture.evaluate((canvas: HTMLCanvasElement) => {
        const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? {
          data: [],
        };
        const seen = new Set<number>();
        for (let at = 0; at < data.length; at += 4000)
          seen.add((data[at] ?? 0) * 65_536 + (data[at + 1] ?? 0) * 256);
        return seen.size;
      }),
    )
    .toBeGreaterThan(8);
  await page.keyboard.press('Escape');

  // By keyboard: to the next frame, ten on, and to the last.
  const strip = page.getByRole('slider', { name: 'Frames' });
  await strip.focus();
  await page.keyboard.press('Home');
  await expect(facts).toContainText('Frame 1, at 0.0');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(facts).toContainText('Frame 12,');
  await expect(strip).toHaveAttribute('aria-valuetext', /^Frame 12 at/);

  // Something else is changed, and rehearsed.
  await page.request.patch(`${process.env.BASE_URL}/api/lessons/${lesson}`, {
    data: { rig: rigOf('desk', 10, null) },
  });
  await page.reload();
  await expect(start(page)).toBeEnabled();
  await expect(facts).toBeVisible();
  await expect(facts.getByRole('button', { name: 'Watch at 100 %' })).toBeHidden();
  await lasting(page, 6);
  await start(page).click();
  await ended(page, 2);
  for (const n of [1, 2]) await page.getByRole('checkbox', { name: `Compare rehearsal ${n}` }).check();
  const compared = page.getByRole('dialog', { name: 'Two rehearsals side by side' });
  await expect(compared.getByRole('row', { name: /^Frame rate 15 fps 10 fps/ })).toBeVisible();
  await expect(compared.getByRole('row', { name: /^Text clarity clear: 0.99/ })).toBeVisible();
  await page.keyboard.press('Escape');

  const earlier = ledger(page).getByRole('row', { name: /^Show rehearsal 1/ });
  await earlier.getByRole('button', { name: 'Use this' }).click();
  await expect(earlier.getByText('in use')).toBeVisible();
  await expectAccessible(page);
  // Set up knows of it.
  await page
    .getByRole('link', { name: /^Set up/ })
    .first()
    .click();
  await expect(page.getByText(/^Rehearsed (just now|.* ago): /)).toBeVisible();
});

test('a screen that stands still says so, and a rehearsal can be ended early', { tag: AT_LENGTH }, async ({
  studio: page,
}) => {
  await rehearsing(page, rigOf('desk', 15));
  await misbehave(page, 'desk', { kind: 'stuck' });
  await start(page).click();
  await expect(verdict(page)).toContainText('Rehearsing:');
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: 'Stop now' }).click();
  await ended(page, 1);
  await expect(verdict(page)).toContainText('This says little: hardly anything moved.');
});

test('a report is checked where it comes in, and is in the ledger once however often it is sent', async ({
  request,
}) => {
  const base = process.env.BASE_URL;
  const newLesson = async () =>
    (await (await request.post(`${base}/api/lessons`, { data: { title: 'R' } })).json()).id;
  const [lesson, other] = [await newLesson(), await newLesson()];
  const of = (id: string) => `${base}/api/lessons/${id}/rehearsals`;
  const report = aReport({ trace: slowEncoder(45) });

  const broken = await request.post(of(lesson), {
    data: { ...report, trace: { ...report.trace, frames: [[0, 99, 0, 0, 0, 0, 0, 0]] } },
  });
  expect(broken.status()).toBe(400);
  expect((await broken.json()).field).toBe('trace.frames.0.1');
  expect((await request.post(of(newLessonId()), { data: report })).status()).toBe(404);

  const [first, again] = [
    await request.post(of(lesson), { data: report }),
    await request.post(of(lesson), { data: report }),
  ];
  expect(await first.json()).toMatchObject({ number: 1, diagnosis: { faults: [{ stage: 'encoder' }] } });
  expect(await again.json()).toEqual(await first.json());
  await request.post(of(lesson), { data: aReport() });
  const ledger: RehearsalView[] = await (await request.get(of(lesson))).json();
  expect(ledger.map(({ number }) => number)).toEqual([2, 1]);
  // Nobody needs thousands of frames in a list; they are there when they are asked for, by their own lesson.
  expect(ledger[0]).not.toHaveProperty('trace');
  expect(await (await request.get(`${of(lesson)}/${report.id}`)).json()).toEqual(report.trace);
  expect((await request.get(`${of(other)}/${report.id}`)).status()).toBe(404);
});
