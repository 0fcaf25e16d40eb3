import { launch, withProfile } from '../tests/support/browser';

const steps = process.argv.slice(2);
await withProfile(async (profile) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text().slice(0, 300)));
  page.on('pageerror', (e) => console.log('pageerror:', e.message));
  const base = 'http://127.0.0.1:4620';
  const lesson = await (
    await page.request.post(base + '/api/lessons', { data: { title: 'Check in a returned packet' } })
  ).json();
  await page.request.patch(`${base}/api/lessons/${lesson.id}`, {
    data: { rig: { ...lesson.rig, ...JSON.parse(process.env.RIG ?? '{}') } },
  });
  await page.goto(`${base}/lessons/${lesson.id}/set-up`);
  await page
    .getByRole('img', { name: 'Live picture' })
    .waitFor({ timeout: 20000 })
    .catch((e) => console.log(e.message.slice(0, 200)));
  await page.waitForTimeout(1500);
  for (const step of steps) {
    if (step.startsWith('wait:')) await page.waitForTimeout(Number(step.slice(5)));
    else if (step.startsWith('tab:'))
      await page
        .getByRole('tab', { name: step.slice(4) })
        .first()
        .click();
    else if (step.startsWith('click:'))
      await page
        .getByRole('button', { name: step.slice(6) })
        .first()
        .click();
    else if (step.startsWith('text:'))
      await page.getByText(step.slice(5)).first().waitFor({ timeout: 30000 });
    else if (step.startsWith('goto:')) await page.goto(base + step.slice(5).replace('LESSON', lesson.id));
    else if (step.startsWith('size:')) {
      const [w, h] = step.slice(5).split('x').map(Number);
      await page.setViewportSize({ width: w, height: h });
    } else {
      await page.waitForTimeout(300);
      await page.screenshot({ path: `/tmp/shots/${step}.png` });
    }
  }
  await context.close();
});
