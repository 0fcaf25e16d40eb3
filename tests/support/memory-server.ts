import { createHash } from 'node:crypto';
import { newLessonId, type SegmentId, type TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { SegmentHead, SegmentPart, TakeEnd } from '@/core/recording/take';
import { HASH_DIFFERS, UPLOAD_BEGUN, uploadName } from '@/core/recording/upload';
import type { ServerCalls } from '@/recorder/uploader/server-calls';
import type { Upload } from '@/recorder/uploader/tus';

const conflict = (message: string) => new ProblemError({ code: 'conflict', message });
const unreachable = () => new ProblemError({ code: 'unreachable', message: 'The server cannot be reached.' });

/**
 * A server in memory that answers an uploader as the real one does, for tests.
 * @param fails asked before each call: whether the line breaks, before the server does it or after
 */
export function memoryServer(fails: () => 'before' | 'after' | null = () => null) {
  const uploads = new Map<string, Uint8Array<ArrayBuffer>>();
  const kept = new Map<string, Uint8Array<ArrayBuffer>>();
  const heads = new Map<string, SegmentHead>();
  const ended: { take: TakeId; end: TakeEnd }[] = [];
  let sentBytes = 0;
  const parts: SegmentPart[] = ['media', 'index'];
  const isConfirmed = (segment: SegmentId) => parts.every((part) => kept.has(uploadName(segment, part)));

  /** Does something as a line does that may break: the answer may be lost although it was done. */
  const call = async <T>(work: () => T | Promise<T>): Promise<T> => {
    const how = fails();
    if (how === 'before') throw unreachable();
    const answer = await work();
    if (how === 'after') throw unreachable();
    return answer;
  };
  const upload = (name: string): Upload => ({
    url: name,
    offset: uploads.get(name)?.length ?? 0,
    lengthKnown: false,
  });
  const server: ServerCalls = {
    announceTake: () => call(() => undefined),
    announceSegment: (_, segment) => call(() => heads.set(segment.id, segment)),
    standing: (segment, part) =>
      call(() => (uploads.has(uploadName(segment, part)) ? upload(uploadName(segment, part)) : null)),
    begin: (segment, part) =>
      call(() => {
        const name = uploadName(segment, part);
        if (isConfirmed(segment)) return null;
        if (uploads.has(name)) throw new ProblemError({ code: UPLOAD_BEGUN, message: 'Begun already.' });
        uploads.set(name, new Uint8Array(0));
        return upload(name);
      }),
    send: (to, bytes) =>
      call(async () => {
        const before = uploads.get(to.url) ?? new Uint8Array(0);
        if (before.length !== to.offset) throw conflict('Another offset.');
        const more = new Uint8Array(await bytes.arrayBuffer());
        sentBytes += more.length;
        uploads.set(to.url, new Uint8Array([...before, ...more]));
        return before.length + more.length;
      }),
    confirm: (_, segment, part, bytes, sha256) =>
      call(() => {
        const name = uploadName(segment, part);
        const at = uploads.get(name) ?? kept.get(name);
        if (!at || at.length < bytes) throw conflict('Bytes are missing.');
        if (createHash('sha256').update(at.subarray(0, bytes)).digest('hex') !== sha256) {
          uploads.delete(name);
          throw new ProblemError({ code: HASH_DIFFERS, message: 'Other bytes.' });
        }
        kept.set(name, at);
        uploads.delete(name);
      }),
    end: (take, end) =>
      call(() => {
        const missing = end.segments.filter((id) => !isConfirmed(id) && !end.absent.includes(id));
        if (missing.length > 0) throw conflict(`${missing.length} segments are not confirmed yet.`);
        ended.push({ take, end });
      }),
    discard: () => call(() => undefined),
    makeLesson: () => call(newLessonId),
  };
  return { server, uploads, kept, ended, sentBytes: () => sentBytes };
}
