import { newSegmentId, newTakeId } from '@/core/base/ids';
import type { SegmentHead, TakeHead } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import type { LessonView } from '@/core/views/lesson';
import { machineFacts } from '@/recorder/machine';
import { begin, sendUpTo } from '@/recorder/uploader/tus';
import { fetchJson } from '../wire/fetch-json';

export type IngestTimes = { putMs: number; uploadMs: number; confirmMs: number };

/** A file of the browser's own storage that looks like a Matroska and cannot be packed. */
async function fileOf(bytes: number): Promise<File> {
  const root = await navigator.storage.getDirectory();
  const handle = await root.getFileHandle('ingest-bench', { create: true });
  const writable = await handle.createWritable();
  const piece = new Uint8Array(1 << 20);
  for (let at = 0; at < bytes; at += piece.length) {
    for (let i = 0; i < piece.length; i += 65_536)
      crypto.getRandomValues(piece.subarray(i, Math.min(i + 65_536, piece.length)));
    if (at === 0)
      piece.set([0x1a, 0x45, 0xdf, 0xa3, 0x8b, 0x42, 0x82, 0x88, ...new TextEncoder().encode('matroska')]);
    await writable.write(piece.subarray(0, Math.min(piece.length, bytes - at)));
  }
  await writable.close();
  return handle.getFile();
}

/** Sends the same bytes in one plain PUT and by the uploader's protocol, in turns. */
export async function measureIngest(bytes: number, rounds: number): Promise<IngestTimes[]> {
  const file = await fileOf(bytes);
  const { id: lessonId } = await fetchJson<LessonView>('POST', '/api/lessons', { title: 'Ingest' });
  const times: IngestTimes[] = [];
  for (let round = 0; round < rounds; round++) {
    const putFrom = performance.now();
    const put = await fetch('/api/lab/put', { method: 'PUT', body: file });
    if (!put.ok) throw new Error(`The PUT was answered ${put.status}.`);
    const putMs = performance.now() - putFrom;

    const [take, segment] = [newTakeId(), newSegmentId()];
    const head: TakeHead = {
      id: take,
      lessonId,
      rig: PRACTICE_RIG,
      startedAt: new Date().toISOString(),
      ...machineFacts(),
    };
    await fetchJson('PUT', `/api/takes/${take}`, head);
    await fetchJson('PUT', `/api/takes/${take}/segments/${segment}`, {
      id: segment,
      track: 'voice',
      index: 0,
      startUs: 0,
      configuration: { type: 'audio', codec: 'opus', sampleRate: 48_000, channels: 1, bitrateKbps: 64 },
      encoderDelayUs: 0,
      offsetUs: 0,
      offsetHow: 'declared',
      continues: false,
    } satisfies SegmentHead);
    const uploadFrom = performance.now();
    const upload = await begin(segment, 'media');
    if (!upload) throw new Error('The segment is there already.');
    await sendUpTo(upload, {
      size: bytes,
      whole: true,
      read: (from, to) => file.slice(from, to),
    });
    const uploadMs = performance.now() - uploadFrom;
    // The server hashes the whole of it before it says that the hashes differ: that is the time of a confirmation.
    const confirmFrom = performance.now();
    await fetch(`/api/takes/${take}/segments/${segment}/confirm`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ part: 'media', bytes, sha256: '0'.repeat(64) }),
    });
    const confirmMs = performance.now() - confirmFrom;
    await fetchJson('DELETE', `/api/takes/${take}`);
    times.push({ putMs, uploadMs, confirmMs });
  }
  return times;
}
