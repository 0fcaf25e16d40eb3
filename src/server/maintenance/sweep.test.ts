import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { PairingState } from '@/core/keeping/pairing';
import type { Stray } from './strays';
import { sweep, sweepText } from './sweep';

const studio = {
  folder: '',
  pairing: 'same' as PairingState,
  strays: [] as Stray[],
  /** Leases that somebody else holds. */
  busy: new Set<string>(),
  trashed: [] as [path: string, reason: string][],
  /** Rows that were removed. */
  removed: [] as { id: string }[],
  emptied: 0,
};

vi.mock('../keeping/pairing', () => ({
  readPairing: async () => studio.pairing,
  countPairing: async () => studio.pairing,
}));
vi.mock('../keeping/trash', () => ({
  moveToTrash: async (path: string, reason: string) => {
    studio.trashed.push([path, reason]);
    rmSync(path, { recursive: true });
  },
  emptyTrash: async () => {
    studio.emptied++;
    return [];
  },
}));
vi.mock('./strays', () => ({
  findStrays: async () => studio.strays,
  withLeases: async (names: string[], work: () => Promise<void>) => {
    if (names.some((name) => studio.busy.has(name))) return false;
    await work();
    return true;
  },
}));
vi.mock('./bin', () => ({ emptyOldBin: async () => [] }));
vi.mock('../cuts/cut-versions', () => ({ dropOldVersions: async () => undefined }));
vi.mock('../jobs/abandoned', () => ({ orderAbandoned: async () => [] }));
vi.mock('../db/entities', () => ({ Segment: class Segment {}, Take: class Take {} }));
vi.mock('../db/orm', () => ({
  unitOfWork: async () => ({
    find: async () => [],
    count: async () => 0,
    remove: (rows: { id: string }[]) => {
      studio.removed.push(...rows);
      return { flush: async () => undefined };
    },
  }),
}));
vi.mock('../media/media-folder', async (original) => ({
  ...(await original<object>()),
  uploadsDir: () => studio.folder,
  segmentPath: () => join(studio.folder, 'nothing'),
}));

/** A file of ten bytes in the media folder. */
function put(name: string): string {
  const path = join(studio.folder, name);
  writeFileSync(path, '0123456789');
  return path;
}
const aside = (path: string, isStill = async () => true): Stray => ({
  ...{ path, reason: 'no take of that name', temporary: null, isStill },
});
const halfMade = (path: string, leases: string[]): Stray => ({
  ...{ path, reason: 'left half-made by a process that is gone', temporary: { leases } },
  isStill: async () => true,
});

beforeEach(() => {
  const folder = mkdtempSync(join(tmpdir(), 'otter-sweep-'));
  Object.assign(studio, { folder, pairing: 'same', strays: [], trashed: [], removed: [], emptied: 0 });
  studio.busy.clear();
});
afterEach(() => rmSync(studio.folder, { recursive: true, force: true }));

test('what nobody refers to is moved aside with its reason; only what was half-made is removed', async () => {
  const [take, part] = [put('take'), put('part')];
  studio.strays = [aside(take), halfMade(part, ['take-1'])];
  const report = await sweep(true);
  expect(studio.trashed).toEqual([[take, 'no take of that name']]);
  expect(existsSync(part)).toBe(false);
  expect(report.strays.map(({ path, bytes, temporary }) => [path, bytes, temporary])).toEqual([
    [take, 10, false],
    [part, 10, true],
  ]);
});

test('a look touches nothing', async () => {
  studio.strays = [aside(put('take')), halfMade(put('part'), [])];
  const report = await sweep(false);
  expect(readdirSync(studio.folder)).toEqual(['part', 'take']);
  expect(report.strays).toHaveLength(2);
  expect([studio.trashed, studio.emptied]).toEqual([[], 0]);
  expect(sweepText(report, false)).toContain('would be moved to trash');
});

test.each(['other-instance', 'database-older', 'media-older', 'media-missing'] as const)(
  'where database and media folder are “%s”, nothing at all is swept',
  async (pairing) => {
    studio.pairing = pairing;
    studio.strays = [aside(put('take')), halfMade(put('part'), [])];
    const report = await sweep(true);
    expect(readdirSync(studio.folder)).toEqual(['part', 'take']);
    expect(report.strays).toEqual([]);
    expect([studio.trashed, studio.emptied]).toEqual([[], 0]);
    expect(sweepText(report, true)).toContain('Nothing was swept.');
  },
);

test('half-made files stay while somebody may be making them', async () => {
  const [busy, free] = [put('busy'), put('free')];
  studio.strays = [halfMade(busy, ['take-1', 'take-1.gif']), halfMade(free, ['take-2'])];
  studio.busy.add('take-1.gif');
  const report = await sweep(true);
  expect([existsSync(busy), existsSync(free)]).toEqual([true, false]);
  expect(report.strays.map(({ path }) => path)).toEqual([free]);
});

test('a row that came while the sweep was looking keeps its file', async () => {
  const path = put('take');
  studio.strays = [aside(path, async () => false)];
  const report = await sweep(true);
  expect(existsSync(path)).toBe(true);
  expect(report.strays).toEqual([]);
});

test('one sweep at a time, on whatever machine', async () => {
  mkdirSync(join(studio.folder, 'take'));
  studio.strays = [aside(join(studio.folder, 'take'))];
  studio.busy.add('sweep');
  const report = await sweep(true);
  expect(existsSync(join(studio.folder, 'take'))).toBe(true);
  expect(report.strays).toEqual([]);
});
