import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { newSegmentId } from '@/core/base/ids';
import { begin, send, sendUpTo, standing } from './tus';

const segment = newSegmentId();
type Request = { method: string; url: string; headers: Headers; bytes: number };

/** A server of resumable uploads in memory; what it is asked is kept. */
function fakeServer(answer: (request: Request) => Response) {
  const asked: Request[] = [];
  vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
    const body = init.body instanceof Blob ? init.body.size : 0;
    const request = { method: init.method ?? 'GET', url, headers: new Headers(init.headers), bytes: body };
    asked.push(request);
    return answer(request);
  });
  return asked;
}
const refusal = (status: number, problem?: object) =>
  new Response(problem ? JSON.stringify(problem) : 'no', { status });

beforeEach(() => () => vi.unstubAllGlobals());

describe('a resumable upload', () => {
  it('asks where it stands, and knows what is not there', async () => {
    const headers = { 'Upload-Offset': '42', 'Upload-Length': '100' };
    fakeServer(() => new Response(null, { status: 200, headers }));
    expect(await standing(segment, 'media')).toEqual({
      ...{ url: `/api/uploads/${segment}.media`, offset: 42, lengthKnown: true },
    });
    for (const status of [403, 404, 410]) {
      fakeServer(() => refusal(status));
      expect(await standing(segment, 'media')).toBeNull();
    }
    // Without an offset nothing is known: "The Server MUST always include the Upload-Offset header".
    fakeServer(() => new Response(null, { status: 200, headers: { 'Upload-Offset': 'x' } }));
    await expect(standing(segment, 'media')).rejects.toThrow('The server answered 200.');
  });

  it('begins without a length, under a name that both sides know', async () => {
    const asked = fakeServer(() => new Response(null, { status: 201 }));
    await begin(segment, 'index');
    expect(asked[0]?.headers.get('Upload-Defer-Length')).toBe('1');
    expect(asked[0]?.headers.get('Upload-Metadata')).toBe(`name ${btoa(`${segment}.index`)}`);
    fakeServer(() => refusal(409, { code: 'already-confirmed', message: 'It is there.' }));
    expect(await begin(segment, 'index')).toBeNull();
    fakeServer(() => refusal(409, { code: 'lesson-gone', message: 'The lesson is in the bin.' }));
    await expect(begin(segment, 'index')).rejects.toThrow('The lesson is in the bin.');
  });

  it('tells the length with the last bytes alone, and never twice', async () => {
    const asked = fakeServer(() => new Response(null, { status: 204, headers: { 'Upload-Offset': '3' } }));
    const upload = { url: '/api/uploads/a', offset: 0, lengthKnown: false };
    expect(await send(upload, new Blob(['abc']))).toBe(3);
    await send(upload, new Blob(['abc']), 3);
    await send({ ...upload, lengthKnown: true }, new Blob(['abc']), 3);
    expect(asked.map(({ headers }) => headers.get('Upload-Length'))).toEqual([null, '3', null]);
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('offline')));
    await expect(send(upload, new Blob(['abc']))).rejects.toThrow('The server cannot be reached.');
  });

  it('sends every byte once and in order, whatever the server keeps of a piece', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 0, max: 40_000_000 }),
        fc.integer({ min: 0, max: 20_000_000 }),
        fc.boolean(),
        fc.array(fc.double({ min: 0.1, max: 1, noNaN: true }), { minLength: 1, maxLength: 5 }),
        async (size, begun, whole, kept) => {
          const from = Math.min(begun, size);
          let at = from;
          let told: number | undefined;
          let turns = 0;
          const done = await sendUpTo(
            { url: '/u', offset: from, lengthKnown: false },
            {
              ...{ size, whole },
              read: (from, to) => ({ size: to - from }) as Blob,
              transmit: async ({ offset }, bytes, length) => {
                expect(offset).toBe(at);
                expect(told === undefined || length === undefined || told === length).toBe(true);
                told ??= length;
                const share = kept[turns++ % kept.length] ?? 1;
                at += bytes.size === 0 ? 0 : Math.max(1, Math.floor(bytes.size * share));
                return at;
              },
            },
          );
          expect([done.offset, at]).toEqual([size, size]);
          expect(done.lengthKnown).toBe(whole);
          expect(told).toBe(whole ? size : undefined);
        },
      ),
      { numRuns: 80 },
    );
  });
});
