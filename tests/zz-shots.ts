import { launch, withProfile } from './support/browser';
import { armed, startRecording, stretch } from './support/studio';
import { PRACTICE_RIG } from '@/core/rig';
const which = (process.argv[2] ?? 'aim,picture,encode,file,camera,voice,rig,record').split(',');
const [take, lesson] = [process.argv[3], process.argv[4]];
await withProfile(async (profile) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  page.on('pageerror', (e) => console.log('ERR', e.message));
  page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text().slice(0, 300)));
  const shot = (n: string) => page.screenshot({ path: `/tmp/shots/${n}.png` });
  if (which.some((w) => ['aim','picture','encode','file','camera','voice','app-sound','rig','record'].includes(w))) {
    await armed(page, PRACTICE_RIG);
    if (which.includes('record')) { await page.waitForTimeout(1000); await shot('record'); }
    await page.goto(page.url().replace('/record', '/set-up')); await page.waitForTimeout(3000);
    for (const s of which.filter((w) => w !== 'record')) { await page.goto(page.url().split('#')[0] + '#' + s); await page.waitForTimeout(1200); await shot(s); }
  }
  if (take) { await page.goto(`/takes/${take}`); await page.waitForTimeout(2500); await shot('take'); }
  if (lesson) { await page.goto(`/lessons/${lesson}/edit`); await page.waitForTimeout(2500); await shot('edit'); await page.goto(`/lessons/${lesson}/hand-over`); await page.waitForTimeout(2500); await shot('hand-over'); await page.goto('/rigs'); await page.waitForTimeout(1000); await shot('rigs'); }
  await context.close();
});
