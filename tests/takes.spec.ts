// Every take of a lesson is found, opened, renamed, deleted and brought back, wherever it is looked for.
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  recordFor,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

test('all takes of a lesson are listed on Record and on each take’s page, and found from home', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...CARD_RIG, camera: null, appSound: null });
  const lesson = lessonOf(page);
  const stamp = Date.now();
  const title = `Sort the shelf, ${stamp}`;
  const named = `With the right jar, ${stamp}`;
  await page.request.patch(`/api/lessons/${lesson}`, { data: { title } });
  const { takeId: first } = await recordFor(page, 1500);
  await finished(page);
  await page.getByRole('link', { name: 'Record another' }).click();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  const { takeId: second } = await recordFor(page, 1500);
  await finished(page);

  const list = page.getByRole('region', { name: '2 takes of this lesson' });
  const row = (name: string) => list.getByRole('row').filter({ has: page.getByRole('rowheader', { name }) });
  await expect(row('Second take')).toContainText('this page');
  await expect(row('First take')).toContainText(/0:0\d/);
  await expect(row('First take')).toContainText(/\d+ kB/);
  await expect(row('First take')).toContainText('ready');
  await expectAccessible(page);

  // Renamed, deleted and brought back in the list; its page follows.
  await row('First take').getByRole('button', { name: /Edit/ }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type(named);
  await page.keyboard.press('Enter');
  await expect(row(named)).toBeVisible();
  await list.getByRole('button', { name: `Delete ${named}` }).click();
  const deleted = page.getByRole('region', { name: 'One take of this lesson' });
  await expect(deleted.getByRole('row', { name: new RegExp(`${named}.*in the bin`) })).toBeVisible();
  expect(await rows('select id from take where id = $1 and deleted_at is null', [first])).toEqual([]);
  await deleted.getByRole('button', { name: `Restore ${named}` }).click();
  await expect(list).toBeVisible();
  await list.getByRole('link', { name: named }).click();
  await page.waitForURL(new RegExp(first));
  await expect(row(named)).toContainText('this page');

  // Which one the cut uses is said.
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Edit' }).click();
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 20_000 });
  await page.waitForURL(/\/edit$/);
  await page.getByLabel('Title of step 1').fill('Sorting');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await expect
    .poll(async () => (await rows('select lesson_id from cut where lesson_id = $1', [lesson])).length)
    .toBe(1);
  await page.getByRole('navigation').getByRole('link', { name: 'Record' }).click();
  await expect(row('Second take')).toContainText('in the cut');
  await expect(row(named)).not.toContainText('in the cut');
  await expectAccessible(page);

  // From home by the title of a take; lessons in another order.
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Find a lesson or a take' }).fill(`right jar, ${stamp}`);
  const article = page.getByRole('article');
  await expect(article).toHaveCount(1);
  await expect(article).toContainText(title);
  await article.getByRole('link', { name: named }).click();
  await page.waitForURL(new RegExp(first));
  await page.goto('/');
  await choose(page, 'Order of lessons', 'Title');
  const titles = await page.getByRole('article').getByRole('heading').allTextContents();
  expect(titles).toEqual(
    [...titles].sort((a, b) => a.localeCompare(b, 'en', { numeric: true, sensitivity: 'base' })),
  );
  expect(second).not.toBe(first);

  // More lessons than a page holds: the first one is large, twelve lie below it, and the rest a page further.
  for (let i = 1; i <= 14; i++)
    await page.request.post('/api/lessons', { data: { title: `Seed drawer ${stamp}, ${i}` } });
  await page.reload();
  await page.getByRole('textbox', { name: 'Find a lesson or a take' }).fill(`drawer ${stamp}`);
  await expect(article).toHaveCount(13);
  await page.getByRole('listitem', { name: '2' }).click();
  await expect(article).toHaveCount(2);
  // What is looked for next is shown from its beginning.
  await page.getByRole('textbox', { name: 'Find a lesson or a take' }).fill(`Seed drawer ${stamp}`);
  await expect(article).toHaveCount(13);
});
