import { beforeEach, expect, test, vi } from 'vitest';
import { Cancelled } from '../media/ffmpeg';
import { runJob } from './run-job';

type Row = {
  id: number;
  subject: string;
  kind: string;
  state: string;
  step: string;
  progress: number;
  problem: string | null;
};

/** The table with its one row; `kept` is what was written, as another process would read it. */
const base = { row: null as Row | null, kept: null as Row | null };
/** The database's leases: who asks gets one unless somebody else holds it. */
const leases = { heldByOther: false, lost: new AbortController(), released: 0 };

vi.mock('../db/orm', () => ({
  unitOfWork: async () => ({
    findOne: async (_: unknown, where: { id?: number }) => ('id' in where ? base.kept : base.row),
    flush: async () => {
      base.kept = base.row && { ...base.row };
    },
    nativeUpdate: async (_: unknown, __: unknown, change: Partial<Row>) => {
      if (base.kept) Object.assign(base.kept, change);
    },
  }),
}));
vi.mock('../db/entities', () => ({ Job: class {} }));
vi.mock('../process/log', () => ({ log: () => ({ error: () => undefined }) }));
vi.mock('./lease', () => ({
  lease: async () =>
    leases.heldByOther
      ? null
      : {
          signal: leases.lost.signal,
          release: async () => {
            leases.released++;
          },
        },
}));

const TAKE = 'take-1' as Parameters<typeof runJob>[1];
const settled: [string, unknown][] = [];
const settle = async (outcome: string, result: unknown) => {
  settled.push([outcome, result]);
};

beforeEach(() => {
  base.row = {
    ...{ id: 1, subject: TAKE, kind: 'finish-take', state: 'waiting' },
    ...{ step: '', progress: 0, problem: null },
  };
  base.kept = { ...base.row };
  Object.assign(leases, { heldByOther: false, lost: new AbortController(), released: 0 });
  settled.length = 0;
});

test('work that succeeds is done, and its result is settled together with the row', async () => {
  await runJob('finish-take', TAKE, async () => 42, settle);
  expect(base.kept).toMatchObject({ state: 'done', progress: 1, problem: null });
  expect(settled).toEqual([['done', 42]]);
  expect(leases.released).toBe(1);
});

test('work that fails says why, and the lease is free again', async () => {
  const work = async () => {
    throw new Error('The disk is full.');
  };
  await runJob('finish-take', TAKE, work, settle);
  expect(base.kept).toMatchObject({ state: 'failed', problem: 'The disk is full.' });
  expect(settled).toEqual([['failed', null]]);
  expect(leases.released).toBe(1);
});

test('a job at which another worker is, is left to that worker', async () => {
  leases.heldByOther = true;
  const work = vi.fn(async () => 1);
  await runJob('finish-take', TAKE, work, settle);
  expect(work).not.toHaveBeenCalled();
  expect(settled).toEqual([]);
  expect(base.kept?.state).toBe('waiting');
});

test.each(['done', 'cancelled'])('a job that is %s is not done once more', async (state) => {
  if (base.row) base.row.state = state;
  const work = vi.fn(async () => 1);
  await runJob('finish-take', TAKE, work, settle);
  expect(work).not.toHaveBeenCalled();
  expect(leases.released).toBe(1);
});

test('a job that a killed worker left running begins again', async () => {
  if (base.row) Object.assign(base.row, { state: 'running', progress: 0.5 });
  await runJob('finish-take', TAKE, async () => 'again', settle);
  expect(settled).toEqual([['done', 'again']]);
});

test('somebody who cancels ends the work; what it throws then is no failure', async () => {
  const work = (_: unknown, signal: AbortSignal) =>
    new Promise<number>((_, reject) => {
      if (base.kept) base.kept.state = 'cancelled';
      signal.addEventListener('abort', () => reject(new Cancelled()));
    });
  await runJob('finish-take', TAKE, work, settle);
  expect(settled).toEqual([['cancelled', null]]);
  expect(base.kept).toMatchObject({ state: 'cancelled', step: 'Cancelled', problem: null });
});

test('whoever lost the lease writes nothing any more: another may have begun', async () => {
  const work = async () => {
    leases.lost.abort(new Error('The database is gone.'));
    throw new Error('Whatever ffmpeg said when it was killed.');
  };
  await expect(runJob('finish-take', TAKE, work, settle)).rejects.toThrow('The database is gone.');
  expect(settled).toEqual([]);
  expect(base.kept?.state).toBe('running');
  expect(leases.released).toBe(1);
});

test('progress never goes back', async () => {
  const seen: number[] = [];
  const work = async (report: (step: string, progress: number) => void) => {
    for (const progress of [0.2, 0.6, 0.4, 0.9]) {
      report('Encoding', progress);
      await new Promise((done) => setTimeout(done));
      seen.push(base.kept?.progress ?? -1);
    }
    return null;
  };
  await runJob('finish-take', TAKE, work, settle);
  expect(seen).toEqual([0.2, 0.6, 0.6, 0.9]);
});
