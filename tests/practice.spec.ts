import type { LabWindow } from '@/ui/lab/lab';
import { expect, test } from './support/studio';

test('drawing a practice picture afresh gives the same bytes as stepping to it', async ({ studio: page }) => {
  await page.goto('/lab');
  await page.waitForFunction(() => 'lab' in window);
  for (const kind of ['desk', 'desk-2', 'window-labels', 'tab-log', 'test-card', 'presenter'] as const) {
    const { identical } = await page.evaluate(
      (k) => (window as unknown as LabWindow).lab.measurePractice(k, 1280, 720, 900),
      kind,
    );
    expect(identical, kind).toBe(true);
  }
});
