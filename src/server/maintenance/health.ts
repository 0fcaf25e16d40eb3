import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { bytesText } from '@/core/base/figures';
import { pairingSentence } from '@/core/keeping/pairing';
import { unitOfWork } from '../db/orm';
import { readPairing } from '../keeping/pairing';
import { freeBytes } from '../media/media-folder';
import { config } from '../process/config';

type Check = { ok: boolean; detail: string };
export type Health = {
  ok: boolean;
  checks: Record<'database' | 'media' | 'pairing' | 'ffmpeg' | 'worker', Check>;
  freeBytes: number;
};

const exec = promisify(execFile);
let ffmpegVersion: Promise<string> | undefined;

/** What works now. `ok` is about answering requests; a worker that is being restarted only delays finishing. */
export async function health(): Promise<Health> {
  const { leastFreeBytes } = config();
  const attempt = (work: Promise<string>): Promise<Check> =>
    work.then(
      (detail) => ({ ok: true, detail }),
      (error) => ({ ok: false, detail: error instanceof Error ? error.message : String(error) }),
    );
  let free = 0;
  ffmpegVersion ??= exec('ffmpeg', ['-version']).then(({ stdout }) =>
    stdout.split(' ').slice(1, 3).join(' '),
  );
  const [database, media, pairing, ffmpeg, worker] = await Promise.all([
    attempt(
      unitOfWork()
        .then((em) => em.getConnection().execute('select version()'))
        .then((rows) => String(rows[0]?.version).split(' ').slice(0, 2).join(' ')),
    ),
    attempt(
      (async () => {
        free = await freeBytes();
        if (free < leastFreeBytes) throw new Error(`only ${bytesText(free)} are free`);
        return `${bytesText(free)} free`;
      })(),
    ),
    attempt(
      readPairing().then((state) => {
        const differs = pairingSentence(state);
        if (differs) throw new Error(differs);
        return 'database and media folder belong together';
      }),
    ),
    attempt(ffmpegVersion),
    attempt(
      unitOfWork()
        .then((em) =>
          em
            .getConnection()
            .execute(`select count(*)::int as n from pg_stat_activity where application_name = 'worker'`),
        )
        .then((rows) => {
          const connections = Number(rows[0]?.n);
          if (connections === 0) throw new Error('no worker process is connected');
          return `${connections} connections`;
        }),
    ),
  ]);
  return {
    ok: database.ok && media.ok,
    checks: { database, media, pairing, ffmpeg, worker },
    freeBytes: free,
  };
}
