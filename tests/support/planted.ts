import { expect, type Page } from '@playwright/test';
import type { TakeId } from '@/core/base/ids';
import { freshJournal, plantJournal, rootOf } from './journals';
import { rows } from './processes';

/** A new lesson with a short take that nobody had to record: its journal is put into the browser, which sends it, and is finished. */
export async function plantedLesson(page: Page, title: string): Promise<{ lesson: string; take: TakeId }> {
  const answer = await page.request.post('/api/lessons', { data: { title } });
  const { id: lesson } = await answer.json();
  await page.goto('/icon.svg');
  const { take, files } = freshJournal(lesson);
  await plantJournal(page, `${rootOf(2)}/${take}`, files);
  await page.goto('/');
  const states = () => rows<{ state: string }>('select state from job where subject = $1', [take]);
  await expect.poll(states, { timeout: 60_000 }).toEqual([{ state: 'done' }]);
  return { lesson, take };
}
