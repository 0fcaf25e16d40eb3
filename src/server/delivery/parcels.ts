import { type LessonId, newParcelId, type ParcelId, type TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { type Cut, cutLengthUs, makesSameVideo, recordedBytes } from '@/core/cut/cut';
import { takesOf } from '@/core/cut/describe-change';
import { attempted, beginningWith, ceilingText, type SampledOutcome } from '@/core/deliver/attempt';
import { expectedBySample, expectedSize } from '@/core/deliver/expect';
import { isScaled } from '@/core/deliver/output-shape';
import { planRender } from '@/core/deliver/plan';
import { planWords } from '@/core/deliver/plan-words';
import type { RenderTake } from '@/core/deliver/take-sources';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { cutOfTake } from '@/core/views/edit-page';
import type { HandOverPage, ParcelPlan, ParcelView } from '@/core/views/parcel';
import { readEdit } from '../cuts/cuts';
import { CutRow, Job, Lesson, Parcel, Share, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { order } from '../jobs/queue';
import { openSharedWork } from '../jobs/shared-work';
import { log } from '../process/log';
import { shareView } from '../sharing/links';
import { jobView } from '../takes/progress';
import { readTake } from '../takes/takes';
import { sampleCut } from './sample';
import { readRenderTake } from './take-sources';

/** Every take that a cut shows, read from disk. @throws {ProblemError} `conflict` while one of them is not finished */
export async function readTakesOf(cut: Cut): Promise<(RenderTake & { pictureBytes: number })[]> {
  const em = await unitOfWork();
  const takes = await em.find(Take, { id: [...takesOf(cut)] }, { populate: ['tracks.segments'] });
  const unfinished = takes.find(({ state }) => state !== 'ready' && state !== 'failed');
  if (unfinished)
    throw new ProblemError({
      code: 'conflict',
      message: 'A take of this video has not arrived whole yet.',
      hint: 'Wait until it is finished, then hand it over.',
    });
  return Promise.all(takes.map(readRenderTake));
}

/** A lesson's last saved cut, and when it was saved; null before the first save. */
async function savedCut(lesson: LessonId): Promise<{ cut: Cut; savedAt: Date } | null> {
  const row = await (await unitOfWork()).findOne(CutRow, { lesson });
  return row && { cut: row.document, savedAt: row.updatedAt };
}

/** The cut that would be handed over now: the saved one, or all of the newest take. */
async function cutToHandOver(lesson: LessonId): Promise<Cut> {
  const cut = (await savedCut(lesson))?.cut ?? (await readEdit(lesson)).cut;
  if (cut) return cut;
  throw new ProblemError({
    code: 'not-found',
    message: 'There is no take to hand over.',
    hint: 'Record one first.',
  });
}

/**
 * What would be made for a destination, before anything is made.
 * @param sampled encodes three seconds of it first, which takes some seconds and tells the size
 */
export async function foreseeParcel(
  lesson: LessonId,
  destination: Destination,
  sampled = false,
  signal = new AbortController().signal,
): Promise<ParcelPlan> {
  const cut = await cutToHandOver(lesson);
  if (sampled) await sample(cut, destination, signal);
  return plan(cut, destination, samples.known(keyOf(cut, destination)) ?? null);
}

/** Samples by what they are of. A page asks for a plan, then orders it: both say the same. Whoever looks through the destinations asks for many, and waits for the last. */
const samples = openSharedWork<SampledOutcome | null>(50);
const keyOf = (cut: Cut, destination: Destination) => JSON.stringify([cut, destination]);

async function sample(cut: Cut, destination: Destination, signal: AbortSignal): Promise<void> {
  const takes = await readTakesOf(cut);
  const work = (ending: AbortSignal) => sampleCut(cut, destination, takes, ending);
  await samples.ask(keyOf(cut, destination), work, signal).catch((error) => {
    signal.throwIfAborted();
    // What could not be sampled, or was ordered meanwhile, can still be estimated.
    if (!(error instanceof Error && error.name === 'AbortError'))
      log().warn({ err: error }, 'sampling a cut');
  });
}

async function plan(cut: Cut, destination: Destination, sampled: SampledOutcome | null): Promise<ParcelPlan> {
  const takes = await readTakesOf(cut);
  const bare = planRender(cut, destination, takes);
  const attempt = beginningWith(destination, bare.rate, sampled);
  const size = bare.files[0]?.picture?.size ?? null;
  const asked = size ? attempted(destination, attempt, size) : destination;
  const render = planRender(cut, asked, takes, attempt.crf);
  const pictureBytes = (take: RenderTake) => takes.find(({ id }) => id === take.id)?.pictureBytes ?? 0;
  const words = planWords(render, asked);
  const ceiling = sampled && size ? ceilingText(destination, attempt, sampled, size) : null;
  return {
    way: render.asItIs ? 'as-it-is' : render.way.way,
    ...words,
    sentence: ceiling ?? words.sentence,
    scaled: render.files.some(
      ({ picture }) => render.way.way === 'encode' && picture && isScaled(picture.size, picture.shape.scaled),
    ),
    expected: sampled
      ? expectedBySample(sampled, attempt, bare.rate, destination.maxBytes)
      : expectedSize(render, cut, destination, takes, pictureBytes),
    ...(sampled ? { attempt } : {}),
  };
}

/** Everything the Hand over stage shows of a lesson; null while there is no take to hand over. */
export async function readHandOver(lesson: LessonId): Promise<HandOverPage> {
  const { cut, takes } = await readEdit(lesson);
  if (!cut) return null;
  const recorded = takes.map(({ id, durationUs, segments }) => ({
    id,
    durationUs: durationUs ?? 0,
    bytes: segments.reduce((sum, { bytes }) => sum + bytes, 0),
  }));
  return {
    lengthUs: cutLengthUs(cut),
    takeBytes: recordedBytes(cut, recorded),
    parcels: await listParcels(lesson),
  };
}

/** Orders a parcel of one whole take, as its rig lays it out, for a destination that ships; nothing when there is none of that name. */
export async function orderParcelOf(take: TakeId, destinationId: string): Promise<void> {
  const page = await readTake(take);
  const destination = DESTINATIONS.find(({ id }) => id === destinationId);
  if (page && destination) await orderParcel(page.lesson.id, destination, cutOfTake(page));
}

/** Orders a parcel. @param of what is handed over; without it the lesson's cut as it is now */
export async function orderParcel(
  lessonId: LessonId,
  destination: Destination,
  of?: Cut,
): Promise<ParcelView> {
  const em = await unitOfWork();
  const lesson = found(await em.findOne(Lesson, { id: lessonId, deletedAt: null }), 'lesson');
  const cut = of ?? (await cutToHandOver(lessonId));
  // The machine is for the video now: one that may be too large is sampled again by its job.
  samples.end(keyOf(cut, destination));
  const parcel = em.create(Parcel, {
    id: newParcelId(),
    lesson,
    destination,
    cut,
    plan: await plan(cut, destination, samples.known(keyOf(cut, destination)) ?? null),
  });
  em.create(Job, {
    subject: parcel.id,
    kind: 'render-parcel',
    state: 'waiting',
    progress: 0,
    step: 'Waiting for a worker',
  });
  lesson.stage = 'hand-over';
  lesson.updatedAt = new Date();
  await em.flush();
  await order('render-parcel', parcel.id);
  return viewAlone(parcel);
}

/** @param saved the lesson's cut; without one there is nothing that a parcel could be older than */
function shownBy(
  { createdAt }: Parcel,
  cut: Cut,
  saved: Awaited<ReturnType<typeof savedCut>>,
): ParcelView['shows'] {
  if (!saved || makesSameVideo(cut, saved.cut)) return 'present';
  return saved.savedAt > createdAt ? 'earlier' : 'take';
}

const viewAlone = async (parcel: Parcel): Promise<ParcelView> =>
  view(parcel, await savedCut(parcel.lesson.id));

async function view(parcel: Parcel, saved: Awaited<ReturnType<typeof savedCut>>): Promise<ParcelView> {
  const em = await unitOfWork();
  const job = await em.findOne(Job, { subject: parcel.id, kind: 'render-parcel' });
  const share = await em.findOne(Share, { parcel: parcel.id, revokedAt: null });
  const { cut } = parcel;
  return {
    id: parcel.id,
    lessonId: parcel.lesson.id,
    destination: parcel.destination,
    takes: [...takesOf(cut)],
    lengthUs: cutLengthUs(cut),
    steps: cut.steps.length,
    shows: shownBy(parcel, cut, saved),
    plan: parcel.plan,
    facts: parcel.facts ?? null,
    job: job && jobView(job),
    share: share && shareView(share.token),
    createdAt: parcel.createdAt.toISOString(),
  };
}

/** A lesson's parcels, the newest first. */
export async function listParcels(lesson: LessonId): Promise<ParcelView[]> {
  const em = await unitOfWork();
  const parcels = await em.find(Parcel, { lesson, deletedAt: null }, { orderBy: { createdAt: 'desc' } });
  const saved = await savedCut(lesson);
  return Promise.all(parcels.map((parcel) => view(parcel, saved)));
}

/** One parcel in its present state. */
export async function readParcel(id: ParcelId): Promise<ParcelView> {
  const em = await unitOfWork();
  return viewAlone(found(await em.findOne(Parcel, { id, deletedAt: null }), 'parcel'));
}

/** Makes a parcel again, cancels it, or takes it off the list; its link ends with it. */
export async function changeParcel(id: ParcelId, act: 'retry' | 'cancel' | 'delete'): Promise<ParcelView> {
  const em = await unitOfWork();
  const parcel = found(await em.findOne(Parcel, { id, deletedAt: null }), 'parcel');
  const job = found(await em.findOne(Job, { subject: id, kind: 'render-parcel' }), 'job');
  const busy = job.state === 'running' || job.state === 'waiting';
  if (act === 'retry' && !busy) {
    Object.assign(job, { state: 'waiting', progress: 0, step: 'Waiting for a worker', problem: null });
    parcel.facts = null;
    await em.flush();
    await order('render-parcel', id);
    return viewAlone(parcel);
  }
  if (act !== 'retry' && busy) Object.assign(job, { state: 'cancelled', step: 'Cancelled' });
  if (act === 'delete') {
    parcel.deletedAt = new Date();
    await em.nativeUpdate(Share, { parcel: id, revokedAt: null }, { revokedAt: new Date() });
  }
  await em.flush();
  return viewAlone(parcel);
}
