import { Rig } from '../src/core/rig';
import { launch, withProfile } from '../tests/support/browser';
import { armed, CARD_RIG, recordFor } from '../tests/support/studio';

await withProfile(async (profile) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text().slice(0, 300)));
  page.on('pageerror', (e) => console.log('pageerror:', e.message));
  const over = JSON.parse(process.env.RIG ?? '{}');
  const rig = { ...CARD_RIG, ...over, picture: { ...CARD_RIG.picture, ...(over.picture ?? {}) } };
  await armed(page, rig);
  const { takeId, folder } = await recordFor(page, Number(process.argv[2] ?? 3000));
  await page.waitForTimeout(Number(process.argv[3] ?? 6000));
  await page.screenshot({ path: '/tmp/shots/rec.png' });
  console.log(folder);
  await context.close();
});
