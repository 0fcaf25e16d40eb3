import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, it, vi } from 'vitest';
import { emptyTrash, listTrash, moveToTrash, putBack } from './trash';

/** Settings are read once a process, so all tests share a folder. */
const data = mkdtempSync(join(tmpdir(), 'otter-trash-'));
const media = (...names: string[]) => join(data, 'media', ...names);
const put = (path: string, content: string) => {
  mkdirSync(join(path, '..'), { recursive: true });
  writeFileSync(path, content);
};

beforeAll(() => {
  vi.stubEnv('DATA_DIR', data);
  vi.stubEnv('DATABASE_URL', 'postgresql://nobody@127.0.0.1/none');
});
beforeEach(() => rmSync(media(), { recursive: true, force: true }));
afterAll(() => {
  vi.unstubAllEnvs();
  rmSync(data, { recursive: true });
});

it('moves aside with reason, date and size, and puts back what it moved', async () => {
  const take = media('takes', 'a');
  put(join(take, 'one.media'), 'recorded');
  const name = await moveToTrash(take, 'No row refers to it.');
  expect(existsSync(take)).toBe(false);
  const [item] = await listTrash();
  expect(item).toMatchObject({
    name,
    from: 'takes/a',
    reason: 'No row refers to it.',
    bytes: 8,
    recording: true,
  });
  expect(item && (await putBack(item))).toBe(take);
  expect(readFileSync(join(take, 'one.media'), 'utf8')).toBe('recorded');
  expect(await listTrash()).toEqual([]);
});

it('never puts something back over something else, nor outside of the media folder', async () => {
  put(media('takes', 'a', 'one.media'), 'old');
  await moveToTrash(media('takes', 'a'), 'A stray.');
  put(media('takes', 'a', 'one.media'), 'new');
  const [item] = await listTrash();
  if (!item) throw new Error('It was moved aside.');
  await expect(putBack(item)).rejects.toThrow('takes/a exists. Move it away, then restore');
  expect(readFileSync(media('takes', 'a', 'one.media'), 'utf8')).toBe('new');
  await expect(putBack({ ...item, from: '../outside' })).rejects.toThrow('is not in the media folder');
  expect((await listTrash()).length).toBe(1);
});

it('deletes by age only what is no recording; a recording goes by name alone', async () => {
  put(media('takes', 'a', 'one.media'), 'recorded');
  put(media('takes', 'b', 'peaks.json'), '[]');
  put(media('takes', 'c', 'one.media'), '');
  const recording = await moveToTrash(media('takes', 'a'), 'A stray.');
  const drawing = await moveToTrash(media('takes', 'b'), 'A stray.');
  const empty = await moveToTrash(media('takes', 'c'), 'A stray.');
  const later = new Date(Date.now() + 31 * 86_400_000);
  expect(await emptyTrash(undefined, new Date())).toEqual([]);
  const gone = await emptyTrash(undefined, later);
  expect(gone.map(({ name }) => name).sort()).toEqual([drawing, empty].sort());
  expect((await listTrash()).map(({ name }) => name)).toEqual([recording]);
  await emptyTrash([recording]);
  expect(await listTrash()).toEqual([]);
});

it('leaves alone what it has no reason for', async () => {
  mkdirSync(media('trash', 'unknown'), { recursive: true });
  put(media('trash', 'torn', 'why.json'), '{"from":');
  expect(await listTrash()).toEqual([]);
  await emptyTrash(undefined, new Date(Date.now() + 1e12));
  expect(existsSync(media('trash', 'unknown'))).toBe(true);
  expect(existsSync(media('trash', 'torn', 'why.json'))).toBe(true);
});
