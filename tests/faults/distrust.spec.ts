// What the server is sent is not believed: each lie gets a clear refusal and leaves nothing half-written.
import { createHash } from 'node:crypto';
import { existsSync, statSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { join } from 'node:path';
import { newSegmentId, newTakeId, type SegmentId, type TakeId } from '@/core/base/ids';
import type { SegmentHead, TakeHead } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { rows } from '../support/processes';
import { expect, takeFolder } from '../support/studio';
import { test } from '../support/test';

const base = () => process.env.BASE_URL ?? '';
const uploaded = (name: string) => join(process.env.DATA_DIR ?? '.data', 'media', 'uploads', name);
const TUS = { 'Tus-Resumable': '1.0.0' };

type Answer = { status: number; code?: string; message?: string; offset: number };

async function ask(method: string, path: string, init: RequestInit = {}): Promise<Answer> {
  const response = await fetch(`${base()}${path}`, { ...init, method });
  const said = await response.json().catch(() => ({}));
  return {
    status: response.status,
    code: said.code,
    message: said.message,
    offset: Number(response.headers.get('upload-offset')),
  };
}
const put = (path: string, body: unknown, method = 'PUT') =>
  ask(method, path, { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const create = (name: string, more: Record<string, string> = { 'Upload-Defer-Length': '1' }) =>
  ask('POST', '/api/uploads', {
    headers: { ...TUS, 'Upload-Metadata': `name ${Buffer.from(name).toString('base64')}`, ...more },
  });
const patch = (name: string, offset: number, body: BodyInit, more: Record<string, string> = {}) =>
  ask('PATCH', `/api/uploads/${name}`, {
    headers: {
      ...TUS,
      'Content-Type': 'application/offset+octet-stream',
      'Upload-Offset': String(offset),
      ...more,
    },
    body,
  });
const standing = (name: string) => ask('HEAD', `/api/uploads/${name}`, { headers: TUS });

const segmentHead = (id: SegmentId): SegmentHead => ({
  id,
  track: 'voice',
  index: 0,
  startUs: 0,
  configuration: { type: 'audio', codec: 'opus', sampleRate: 48_000, channels: 1, bitrateKbps: 64 },
  encoderDelayUs: 0,
  offsetUs: 0,
  offsetHow: 'declared',
  continues: false,
});

/** A take with one announced segment. */
async function announced(): Promise<{ take: TakeId; segment: SegmentId; name: string }> {
  const lesson = await (
    await fetch(`${base()}/api/lessons`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ title: 'Distrust' }),
    })
  ).json();
  const [take, segment] = [newTakeId(), newSegmentId()];
  const head: TakeHead = {
    id: take,
    lessonId: lesson.id,
    rig: PRACTICE_RIG,
    startedAt: new Date().toISOString(),
    browser: 'test',
    machine: { cores: 2, memoryGb: null },
  };
  expect((await put(`/api/takes/${take}`, head)).status).toBe(200);
  expect((await put(`/api/takes/${take}/segments/${segment}`, segmentHead(segment))).status).toBe(200);
  return { take, segment, name: `${segment}.media` };
}

test('names, types, sizes and offsets of uploads are checked; what was refused does not change the upload, and bytes that differ start again', async () => {
  const { take, segment, name } = await announced();
  expect(await create('../../etc/passwd')).toMatchObject({ status: 400, code: 'bad-input' });
  expect(await create(`${newSegmentId()}.media`)).toMatchObject({ status: 404, code: 'not-found' });
  expect(await create(name, { 'Upload-Length': '1000000000000000' })).toMatchObject({
    status: 413,
    code: 'upload-refused',
  });
  expect(existsSync(uploaded(name))).toBe(false);

  expect((await create(name)).status).toBe(201);
  expect((await patch(name, 0, 'twelve bytes')).status).toBe(204);
  // Begun once more it keeps what it has.
  expect(await create(name)).toMatchObject({ status: 409, code: 'upload-begun' });
  expect(statSync(uploaded(name)).size).toBe(12);
  expect(await patch(name, 4, 'again')).toMatchObject({ status: 409, code: 'upload-refused' });
  expect(await patch(name, 400, 'a hole')).toMatchObject({ status: 409, code: 'upload-refused' });
  expect((await patch(name, 12, 'page', { 'Content-Type': 'text/html' })).status).toBeGreaterThanOrEqual(400);
  // The whole is said to be 14 bytes; a body that goes on is not taken, or only as far as that.
  expect((await patch(name, 12, 'far too long', { 'Upload-Length': '14' })).status).toBeGreaterThanOrEqual(
    400,
  );
  expect((await standing(name)).offset).toBeLessThanOrEqual(14);
  expect(statSync(uploaded(name)).size).toBeLessThanOrEqual(14);

  const confirm = `/api/takes/${take}/segments/${segment}/confirm`;
  expect(await put(confirm, { part: 'media', bytes: -1, sha256: 'x' }, 'POST')).toMatchObject({
    status: 400,
    code: 'bad-input',
  });
  const sha256 = createHash('sha256').update('another').digest('hex');
  const { size } = statSync(uploaded(name));
  expect(await put(confirm, { part: 'media', bytes: size + 1, sha256 }, 'POST')).toMatchObject({
    status: 409,
    code: 'conflict',
  });
  expect(statSync(uploaded(name)).size).toBe(size);
  // Other bytes are moved aside, never removed, and the upload begins again.
  expect(await put(confirm, { part: 'media', bytes: size, sha256 }, 'POST')).toMatchObject({
    status: 409,
    code: 'hash-differs',
  });
  expect(existsSync(uploaded(name))).toBe(false);
  expect((await create(name)).status).toBe(201);
  expect(existsSync(join(takeFolder(take), name))).toBe(false);
  expect((await ask('DELETE', `/api/takes/${take}`)).status).toBe(200);
  expect(existsSync(uploaded(name))).toBe(false);
});

test('a segment that is no Matroska file is refused whatever its name and hash, and can be sent again', async () => {
  const { take, segment, name } = await announced();
  const page = '<!doctype html><script>alert(1)</script>';
  await create(name);
  await patch(name, 0, page, { 'Upload-Length': String(page.length) });
  const sha256 = createHash('sha256').update(page).digest('hex');
  const said = await put(
    `/api/takes/${take}/segments/${segment}/confirm`,
    { part: 'media', bytes: page.length, sha256 },
    'POST',
  );
  expect(said).toMatchObject({ status: 422, code: 'bad-media' });
  expect(said.message).toContain('no Matroska');
  expect([existsSync(uploaded(name)), existsSync(join(takeFolder(take), name))]).toEqual([false, false]);
  expect((await create(name)).status).toBe(201);
  await ask('DELETE', `/api/takes/${take}`);
});

test('takes and segments that are not there, or are another’s, are told apart', async () => {
  const [a, b] = [await announced(), await announced()];
  const gone = newTakeId();
  const spare = newSegmentId();
  expect(await put(`/api/takes/${gone}/segments/${spare}`, segmentHead(spare))).toMatchObject({
    status: 404,
    code: 'not-found',
  });
  expect(await put(`/api/takes/${b.take}/segments/${a.segment}`, segmentHead(a.segment))).toMatchObject({
    status: 409,
    code: 'conflict',
  });
  const end = { durationUs: 1000, pauses: [], ledger: {}, cutOff: false };
  expect(await put(`/api/takes/${gone}/end`, { ...end, segments: [] }, 'POST')).toMatchObject({
    status: 404,
  });
  expect(await put(`/api/takes/${a.take}/end`, { ...end, segments: [a.segment] }, 'POST')).toMatchObject({
    status: 409,
    message: expect.stringContaining('not confirmed'),
  });
  const [kept] = await rows<{ state: string }>('select state from take where id = $1', [a.take]);
  expect(kept?.state).toBe('recording');
  for (const { take } of [a, b]) await ask('DELETE', `/api/takes/${take}`);
});

test('a body that is too long or breaks off in the middle is not taken for a whole one', async () => {
  const { take, name } = await announced();
  const long = await put(`/api/takes/${take}`, { filler: 'x'.repeat(3_000_000) });
  expect(long).toMatchObject({ status: 413, code: 'too-large' });
  await create(name);
  // The sender promises 5 MB, sends one and is gone.
  const { hostname, port } = new URL(base());
  await new Promise<void>((done) => {
    const sending = plainRequest({
      hostname,
      port,
      path: `/api/uploads/${name}`,
      method: 'PATCH',
      headers: {
        ...TUS,
        'Content-Type': 'application/offset+octet-stream',
        'Content-Length': '5000000',
        'Upload-Offset': '0',
      },
    });
    sending.on('error', () => undefined).on('close', () => done());
    sending.write(Buffer.alloc(1_000_000, 7), () => setTimeout(() => sending.destroy(), 300));
  });
  await expect.poll(async () => (await standing(name)).offset, { timeout: 15_000 }).toBeGreaterThan(0);
  const { offset } = await standing(name);
  expect(statSync(uploaded(name)).size).toBe(offset);
  const rest = Buffer.alloc(2_000_000 - offset, 7);
  expect(await patch(name, offset, rest, { 'Upload-Length': '2000000' })).toMatchObject({
    status: 204,
    offset: 2_000_000,
  });
  await ask('DELETE', `/api/takes/${take}`);
});
