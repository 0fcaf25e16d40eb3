import { type LessonId, newTakeId, type TakeId } from '@/core/base/ids';
import type { TakeEnd, TakeHead } from '@/core/recording/take';
import { firstAppSound, PRACTICE_RIG, Rig } from '@/core/rig/rig';
import type { LessonView } from '@/core/views/lesson';
import { FAULT_CHANNEL, type FaultOrder } from '@/practice/faults';
import type { PictureKind } from '@/practice/messages';
import { drawnSize, openPracticeDesk } from '@/practice/practice-desk';
import type { LongTakeOrder } from '@/recorder/bench/long-take.worker';
import { openRecorder, pageNowUs } from '@/recorder/engine';
import { machineFacts } from '@/recorder/machine';
import type { Figures } from '@/recorder/messages';
import { type OpenSource, openPractice } from '@/recorder/sources';
import { startUploader, uploadNews } from '@/recorder/uploader/uploader';
import { fetchJson } from '../wire/fetch-json';

export { diagnoseCase } from './diagnosis-bench';
export { measureIngest } from './ingest-bench';
export { measureCold, measurePlayer } from './player-bench';
export { PRACTICE_RIG, startUploader, uploadNews };

/** Makes a practice device of every open studio page of this browser misbehave; null makes it well again. */
export function misbehave(device: FaultOrder['device'], fault: FaultOrder['fault']): void {
  const channel = new BroadcastChannel(FAULT_CHANNEL);
  channel.postMessage({ device, fault } satisfies FaultOrder);
  channel.close();
}

/** Cost of drawing a practice device, and whether drawing afresh equals stepping. */
export async function measurePractice(kind: PictureKind, width: number, height: number, frames: number) {
  const desk = openPracticeDesk();
  const measured = await desk.measure(kind, { width, height }, frames);
  desk.close();
  return measured;
}

/**
 * What a practice picture device shows at times of its script, as it is drawn: no capture and no encoder was at it.
 * @returns I420 in base64, a text a picture
 */
export async function pristine(kind: PictureKind, atMs: readonly number[]): Promise<string[]> {
  const desk = openPracticeDesk();
  const pictures: string[] = [];
  await desk.draw(kind, drawnSize(kind), atMs, ({ data }) => pictures.push(base64Of(data)));
  desk.close();
  return pictures;
}

function base64Of(data: Uint8Array): string {
  let text = '';
  for (let at = 0; at < data.length; at += 0x8000)
    text += String.fromCharCode(...data.subarray(at, at + 0x8000));
  return btoa(text);
}

/** The take that is being recorded now: for whoever interrupts it. */
export const live: { takeId: TakeId | null; elapsedUs: () => number } = { takeId: null, elapsedUs: () => 0 };

export type LabTake = { takeId: TakeId; end: TakeEnd; baseUs: number; cueUs: number; figures: Figures[] };

/**
 * Records the practice devices of a rig for a while, into the journal.
 * @param pauseAtMs pauses for a second at this time, when given
 */
export async function record(
  lessonId: string,
  rigInput: unknown,
  seconds: number,
  pauseAtMs?: number,
): Promise<LabTake> {
  const rig = Rig.parse(rigInput);
  const desk = openPracticeDesk();
  const recorder = openRecorder();
  const figures: Figures[] = [];
  recorder.listen((message) => {
    if (message.type === 'figures') figures.push(message.figures);
    if (message.type === 'problem') console.error(message.problem.message);
  });
  const sources: OpenSource[] = [];
  const wanted = {
    screen: rig.picture.source,
    camera: rig.camera?.source,
    voice: rig.voice?.source,
    'app-sound': rig.appSound?.source,
  } as const;
  for (const [role, source] of Object.entries(wanted))
    if (source?.from === 'practice')
      sources.push(await openPractice(desk, role as OpenSource['role'], source.id, rig));
  for (const source of sources) await recorder.attach(source, rig);
  await sleep(700);
  const takeId = newTakeId();
  const head: TakeHead = {
    id: takeId,
    lessonId: lessonId as LessonId,
    rig,
    startedAt: new Date().toISOString(),
    ...machineFacts(),
  };
  const baseUs = await recorder.start(head);
  live.takeId = takeId;
  live.elapsedUs = () => pageNowUs() - baseUs;
  const cueUs = await desk.cue();
  if (pauseAtMs !== undefined) {
    await sleep(pauseAtMs);
    recorder.pause();
    await sleep(1000);
    recorder.resume();
  }
  await sleep(seconds * 1000 - (pauseAtMs ?? 0));
  const end = await recorder.stop();
  for (const source of sources) source.close();
  desk.close();
  recorder.close();
  return { takeId, end, baseUs, cueUs, figures };
}

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

type RecorderOrder = {
  width: number;
  height: number;
  frames: number;
  rounds: number;
  textHint: 'on' | 'off';
};

/** Time a picture of the bare encoder and of the whole pipeline, in turns. */
export const bareAgainstWhole = (order: RecorderOrder) =>
  inWorker<{ bareMs: number[]; wholeMs: number[] }>(
    new Worker(new URL('../../recorder/bench/bare-against-whole.worker.ts', import.meta.url), {
      type: 'module',
      name: 'bench',
    }),
    order,
  );

/** Time a picture that is passed on, and of one that is composed with a camera, in turns. */
export const composeCost = (order: Omit<RecorderOrder, 'textHint'>) =>
  inWorker<{ passedMs: number[]; composedMs: number[] }>(
    new Worker(new URL('../../recorder/bench/compose-cost.worker.ts', import.meta.url), {
      type: 'module',
      name: 'bench',
    }),
    order,
  );

/** Time that each part of a voice's treatment takes of a second of sound, ms, a number a second. */
export const treatmentCost = (order: { seconds: number; rounds: number }) =>
  inWorker<Record<string, number[]>>(
    new Worker(new URL('../../recorder/bench/treatment-cost.worker.ts', import.meta.url), {
      type: 'module',
      name: 'bench',
    }),
    order,
  );

const LONG_SCREEN = { width: 320, height: 180 };
const LONG_CAMERA = { width: 160, height: 90 };

/** Makes a take of hours in minutes, with the recorder's encoders and files, and leaves it in the journal for the uploader. */
export async function makeLongTake(lessonId: string, seconds: number): Promise<TakeId> {
  const { camera, picture } = PRACTICE_RIG;
  if (!camera) throw new Error('The practice rig has no camera.');
  const head: TakeHead = {
    ...{ id: newTakeId(), lessonId: lessonId as LessonId, startedAt: new Date().toISOString() },
    rig: {
      ...PRACTICE_RIG,
      picture: { ...picture, source: { from: 'practice', id: 'test-card' }, aim: 'whole', box: LONG_SCREEN },
      camera: { ...camera, size: LONG_CAMERA },
      voice: PRACTICE_RIG.voice && { ...PRACTICE_RIG.voice, gainDb: 0 },
      appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
    },
    ...machineFacts(),
  };
  const order: LongTakeOrder = { head, seconds, screen: LONG_SCREEN, camera: LONG_CAMERA };
  const worker = new Worker(new URL('../../recorder/bench/long-take.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bench',
  });
  await inWorker<TakeEnd>(worker, order);
  return head.id;
}

function inWorker<Answer>(worker: Worker, order: object): Promise<Answer> {
  return new Promise((resolve, reject) => {
    worker.onerror = (event) => reject(new Error(event.message));
    worker.onmessage = ({ data }) => {
      worker.terminate();
      if (data.error) reject(new Error(data.error));
      else resolve(data);
    };
    worker.postMessage(order);
  });
}

export const newLesson = async (title: string): Promise<LessonId> =>
  (await fetchJson<LessonView>('POST', '/api/lessons', { title })).id;

/** Waits until a take has arrived on the server and its job is over. */
export async function finished(takeId: TakeId): Promise<void> {
  const arrived = () => uploadNews.getState().news?.arrived.some(({ id }) => id === takeId) === true;
  await new Promise<void>((resolve) => {
    const look = () => {
      if (!arrived()) return;
      leave();
      resolve();
    };
    const leave = uploadNews.subscribe(look);
    look();
  });
  await (await fetch(`/api/takes/${takeId}/progress`)).text();
}
