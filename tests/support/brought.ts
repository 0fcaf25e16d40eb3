import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { text } from './card-film';
import { dataDir, rows } from './processes';

/** A film that no browser plays. @param size how long its take is in the making */
export async function withFilm(
  size: string,
  seconds: number,
  use: (path: string) => Promise<void>,
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'otter-film-'));
  try {
    const path = join(folder, 'Turning compost.avi');
    const sources = [`testsrc2=s=${size}:r=25`, 'sine=f=440'].flatMap((each) => ['-f', 'lavfi', '-i', each]);
    await text('ffmpeg', [
      ...['-v', 'error', ...sources, '-t', String(seconds)],
      ...['-c:v', 'mpeg4', '-q:v', '6', '-c:a', 'mp2', path],
    ]);
    await use(path);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

export async function newLesson(page: Page): Promise<string> {
  const { id } = await (await page.request.post('/api/lessons', { data: { title: 'Compost' } })).json();
  await page.goto(`/lessons/${id}/edit`);
  return id;
}

export const takesOf = (lesson: string) =>
  rows<{ id: string }>('select id from take where lesson_id = $1', [lesson]);
export const jobsOf = (lesson: string) =>
  rows<{ id: string; state: string }>(
    `select i.id, j.state from incoming i join job j on j.subject = i.id where i.lesson_id = $1 order by i.created_at`,
    [lesson],
  );
export const waitingFiles = (id: string) =>
  readdirSync(join(dataDir(), 'media', 'inspected')).filter((name) => name.startsWith(id));
