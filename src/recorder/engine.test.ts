import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { newTakeId } from '@/core/base/ids';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { openRecorder } from './engine';
import type { FromRecorder, MediaRole, ToRecorder } from './messages';
import type { OpenSource } from './sources';

/** A recorder's worker that writes down what it is told and answers when the test says so. */
class FakeWorker {
  static latest: FakeWorker;
  readonly told: ToRecorder[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  constructor() {
    FakeWorker.latest = this;
  }
  postMessage(message: ToRecorder) {
    this.told.push(message);
    // Whoever listens answers at once; the rest is the test's.
    if (message.type === 'open') queueMicrotask(() => this.say({ type: 'opened' }));
  }
  say(message: FromRecorder) {
    this.onmessage?.({ data: message });
  }
  /** Sources that it was handed, in their order. */
  attached() {
    return this.told.flatMap((message) => (message.type === 'attach' ? [message.source] : []));
  }
  accept(id: number) {
    const source = this.attached().find((each) => each.id === id);
    if (!source) throw new Error(`Nobody handed over source ${id}.`);
    this.say({ type: 'attached', role: source.role, id, problem: null });
  }
}

beforeEach(() => {
  vi.stubGlobal('Worker', FakeWorker);
  vi.stubGlobal('localStorage', { getItem: () => null });
  vi.stubGlobal('navigator', {});
  vi.stubGlobal(
    'MediaStreamTrackProcessor',
    class {
      readonly readable = new ReadableStream();
    },
  );
});
afterEach(() => vi.unstubAllGlobals());

const later = () => new Promise((done) => setTimeout(done, 5));

function sourceOf(role: MediaRole) {
  const stopped: string[] = [];
  let clones = 0;
  const calls: string[] = [];
  const source: OpenSource = {
    role,
    type: role === 'screen' || role === 'camera' ? 'video' : 'audio',
    label: role,
    clock: 'unknown',
    track: {
      clone: () => {
        const name = `clone ${clones++}`;
        return { stop: () => stopped.push(name) };
      },
    } as unknown as MediaStreamTrack,
    hold: async () => calls.push('hold'),
    again: () => calls.push('again'),
    close: () => undefined,
  };
  return { source, stopped, calls };
}

it('hands sources over one after the other; each waits until its worker listens and gives again when it has arrived', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const [screen, camera] = [sourceOf('screen'), sourceOf('camera')];
  const both = [recorder.attach(screen.source, PRACTICE_RIG), recorder.attach(camera.source, PRACTICE_RIG)];
  await later();
  expect(worker.attached().map(({ role }) => role)).toEqual(['screen']);
  expect(screen.calls).toEqual(['hold']);
  worker.accept(1);
  await later();
  expect(worker.attached().map(({ role }) => role)).toEqual(['screen', 'camera']);
  worker.accept(2);
  await Promise.all(both);
  expect(camera.calls).toEqual(['hold', 'again']);
});

it('hands over only the last of those that were wanted for a role, and lets go of what was read for the one before', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const [first, second] = [sourceOf('camera'), sourceOf('camera')];
  const attaching = recorder.attach(first.source, PRACTICE_RIG);
  await later();
  worker.accept(1);
  await attaching;
  const two = recorder.attach(second.source, PRACTICE_RIG);
  const three = recorder.attach(first.source, PRACTICE_RIG);
  await later();
  expect(first.stopped).toEqual(['clone 0']);
  expect(worker.attached().map(({ id }) => id)).toEqual([1, 3]);
  worker.accept(3);
  await Promise.all([two, three]);
  // The end of one that was exchanged is no news; that of the present one is.
  const heard: string[] = [];
  recorder.listen((message) => message.type === 'ended' && heard.push(`${message.id}`));
  worker.say({ type: 'ended', role: 'camera', id: 1 });
  worker.say({ type: 'ended', role: 'camera', id: 3 });
  expect(heard).toEqual(['3']);
});

it('gives screen and camera, which ask at the same time, each its own timestamps', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const asked = [recorder.timestamps('screen'), recorder.timestamps('camera')];
  const answer = (role: MediaRole, us: number) =>
    worker.say({ type: 'timestamps', role, timestampsUs: [us], earliestOffsetUs: us });
  answer('camera', 2);
  answer('screen', 1);
  expect((await Promise.all(asked)).map(({ timestampsUs }) => timestampsUs[0])).toEqual([1, 2]);
});

it('ends every wait when the recorder cannot go on, and says why', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const problem = { code: 'recorded-elsewhere', message: 'Another tab records.' };
  const starting = recorder.start({ id: newTakeId() } as never);
  worker.say({ type: 'problem', problem, fatal: false });
  worker.say({ type: 'problem', problem, fatal: true });
  await expect(starting).rejects.toThrow('Another tab records.');
  const stopping = recorder.stop();
  worker.onerror?.({ message: 'out of memory' });
  await expect(stopping).rejects.toThrow('The recorder stopped: out of memory');
});

it('stops reading every source when a take has ended', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const voice = sourceOf('voice');
  const attaching = recorder.attach(voice.source, PRACTICE_RIG);
  await later();
  worker.accept(1);
  await attaching;
  const stopping = recorder.stop();
  expect(voice.stopped).toEqual([]);
  const end = { durationUs: 1, pauses: [], ledger: {}, segments: [], absent: [], cutOff: false };
  worker.say({ type: 'stopped', rehearsed: null, end });
  expect(await stopping).toEqual(end);
  expect(voice.stopped).toEqual(['clone 0']);
});

it('says why a source could not be attached', async () => {
  const recorder = openRecorder();
  const worker = FakeWorker.latest;
  const attaching = recorder.attach(sourceOf('voice').source, PRACTICE_RIG);
  await later();
  worker.say({ type: 'attached', role: 'voice', id: 1, problem: { code: 'x', message: 'No encoder.' } });
  await expect(attaching).rejects.toThrow('No encoder.');
});
