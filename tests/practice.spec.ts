import type { LabWindow } from '@/ui/lab/lab';
import { expect } from './support/studio';
import { AT_LENGTH, test } from './support/test';

test('drawing a practice picture afresh gives the same bytes as stepping to it', { tag: AT_LENGTH }, async ({
  studio: page,
}) => {
  await page.goto('/lab');
  await page.waitForFunction(() => 'lab' in window);
  // Thirty seconds of the display that has a script, ten of the others.
  const kinds = {
    desk: 900,
    'desk-2': 300,
    'window-labels': 300,
    'tab-log': 300,
    slides: 400,
    'test-card': 300,
    presenter: 300,
    'presenter-green': 300,
  };
  for (const [kind, frames] of Object.entries(kinds)) {
    const { identical } = await page.evaluate(
      ([k, n]) => (window as unknown as LabWindow).lab.measurePractice(k, 1280, 720, n),
      [kind as keyof typeof kinds, frames] as const,
    );
    expect(identical, kind).toBe(true);
  }
});
