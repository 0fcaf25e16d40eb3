import { mkdir, rename, rm } from 'node:fs/promises';
import { cpus, hostname } from 'node:os';
import { basename } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import type { ParcelId } from '@/core/base/ids';
import { filmPath } from '@/core/commands/encode-part';
import { type Cut, recordedBytes } from '@/core/cut/cut';
import {
  type Attempt,
  attempted,
  beginningWith,
  firstAttempt,
  nextAttempt,
  type Outcome,
} from '@/core/deliver/attempt';
import { type PlannedFile, planRender, type RenderPlan } from '@/core/deliver/plan';
import type { RenderTake } from '@/core/deliver/take-sources';
import type { Destination } from '@/core/destination/destination';
import { checkRules } from '@/core/destination/rules';
import type { ParcelFacts, ParcelFile } from '@/core/views/parcel';
import { Parcel } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { comparedOf } from '../delivery/compare';
import { type MadeFile, type MadeSounds, makePlannedFile, takeAsItIs } from '../delivery/make-file';
import { readTakesOf } from '../delivery/parcels';
import { sampleCut } from '../delivery/sample';
import { type Lease, lease } from '../jobs/lease';
import { type Report, runJob } from '../jobs/run-job';
import { measureFile } from '../media/measure';
import { newScratchDir, parcelDir, parcelsDir, scratchDirs, sizeOf } from '../media/media-folder';

const TITLES: Record<PlannedFile['name'], string> = {
  video: 'Video',
  screen: 'Screen',
  camera: 'Camera',
  voice: 'Voice',
  'app-sound': 'App sound',
};
/** Tries until text is clear and a byte ceiling is met; each knows what the ones before it came to. */
const TRIES = 8;
const WAIT_MS = 500;

/** Renders at once on this machine: each keeps two cores busy. */
const PLACES = Math.max(1, Math.floor(cpus().length / 2));

/** One of the machine's places for renders; waits while all are taken. */
async function placeToRender(signal: AbortSignal): Promise<Lease> {
  for (;;) {
    for (let place = 0; place < PLACES; place++) {
      const held = await lease(`render ${hostname()} ${place}`);
      if (held) return held;
    }
    // Thrown is why the job ends, not that the waiting did.
    await setTimeout(WAIT_MS, undefined, { signal }).catch(() => signal.throwIfAborted());
  }
}

/** Makes a parcel's files, measures them as they lie on disk and checks the destination's rules. */
export const renderParcel = (id: ParcelId): Promise<void> =>
  runJob(
    'render-parcel',
    id,
    async (report, signal) => {
      const place = await placeToRender(signal);
      // What a killed worker left of this parcel: the lease is ours now.
      for (const old of await scratchDirs(id)) await rm(old, { recursive: true, force: true });
      const scratch = newScratchDir(id);
      try {
        return await render(id, scratch, report, AbortSignal.any([signal, place.signal]));
      } finally {
        await rm(scratch, { recursive: true, force: true });
        await place.release();
      }
    },
    async (outcome, facts) => {
      if (outcome === 'done') await (await unitOfWork()).nativeUpdate(Parcel, { id }, { facts });
    },
  );

async function render(
  id: ParcelId,
  scratch: string,
  report: Report,
  signal: AbortSignal,
): Promise<ParcelFacts> {
  const began = Date.now();
  const em = await unitOfWork();
  const { destination, cut, plan: foreseen } = await em.findOneOrFail(Parcel, { id });
  await mkdir(scratch, { recursive: true });
  report('Looking at the takes', 0.01);
  const takes = await readTakesOf(cut);
  const size = takes.find(({ id }) => id === cut.steps[0]?.pieces[0]?.take)?.size ?? null;
  const outcomes: Outcome[] = [];
  const sounds: MadeSounds = new Map();
  const sampled = async (): Promise<Attempt> => {
    // Three seconds of it cost less than all of it in vain.
    if (destination.maxBytes === null || foreseen.expected.to <= destination.maxBytes)
      return firstAttempt(destination);
    report('Encoding three seconds of it first', 0.01);
    const { rate } = planRender(cut, destination, takes);
    return beginningWith(destination, rate, await sampleCut(cut, destination, takes, signal));
  };
  for (let attempt = foreseen.attempt ?? (await sampled()); ; ) {
    const asked = size ? attempted(destination, attempt, size) : destination;
    const plan = planRender(cut, asked, takes, attempt.crf);
    const made = await makeAll(plan, asked, scratch, sounds, report, signal);
    report('Checking the finished file', 0.985);
    const { facts, isEncodedClearly } = await measureAll(plan, destination, made, cut, takes, signal);
    outcomes.push({
      ...attempt,
      bytes: facts.bytes,
      otherBytes: facts.bytes - (await pictureBytes(plan, scratch)),
      clear: isEncodedClearly,
    });
    const next = isTriedAgain(plan, destination, outcomes)
      ? nextAttempt(destination, plan.rate, outcomes)
      : null;
    if (next === null) {
      await settleParcel(
        id,
        scratch,
        made.map(({ path }) => path),
      );
      return { ...facts, seconds: (Date.now() - began) / 1000 };
    }
    attempt = next;
    report(triedAgainText(outcomes, attempt, destination), 0.02);
  }
}

const isTriedAgain = ({ way }: RenderPlan, { aim, maxBytes }: Destination, { length }: readonly Outcome[]) =>
  way.way === 'encode' && (aim === 'compact' || maxBytes !== null) && length < TRIES;

function triedAgainText(outcomes: readonly Outcome[], next: Attempt, destination: Destination): string {
  const last = outcomes.at(-1);
  const tooLarge = destination.maxBytes !== null && (last?.bytes ?? 0) > destination.maxBytes;
  const fewer = next.fps === null ? '' : `, ${next.fps} fps`;
  return `${tooLarge ? 'Larger than the destination takes' : 'Text not clear yet'}: trying CRF ${next.crf}${fewer}`;
}

/** Bytes of the encoded pictures of all files. */
async function pictureBytes({ files }: RenderPlan, scratch: string): Promise<number> {
  const parts = files.flatMap(({ picture }) => picture?.parts ?? []);
  const sizes = await Promise.all(
    parts.map((part) => (part.kind === 'encode' ? sizeOf(filmPath(part, scratch)) : 0)),
  );
  return sizes.reduce<number>((sum, bytes) => sum + (bytes ?? 0), 0);
}

async function makeAll(
  plan: RenderPlan,
  destination: Destination,
  scratch: string,
  sounds: MadeSounds,
  report: Report,
  signal: AbortSignal,
): Promise<MadeFile[]> {
  const made: MadeFile[] = [];
  for (const [i, file] of plan.files.entries()) {
    const tell = (step: string, share: number) => {
      const named = plan.files.length > 1 ? `${step}: ${TITLES[file.name].toLowerCase()}` : step;
      report(named, 0.02 + (0.96 * (i + share)) / plan.files.length);
    };
    made.push(
      plan.asItIs
        ? await takeAsItIs(plan.asItIs, file, scratch)
        : await makePlannedFile(file, destination, scratch, sounds, tell, signal),
    );
  }
  return made;
}

async function measureAll(
  plan: RenderPlan,
  destination: Destination,
  made: readonly MadeFile[],
  cut: Cut,
  takes: readonly RenderTake[],
  signal: AbortSignal,
): Promise<{ facts: Omit<ParcelFacts, 'seconds'>; isEncodedClearly: boolean }> {
  const picture = plan.files[0]?.picture ?? null;
  const files = await measureFiles(plan, destination, made, signal);
  const { clarity, colour, isEncodedClearly } = comparedOf(made[0]?.judged ?? []);
  const encodedFrames = (picture?.parts ?? []).reduce(
    (sum, part) => sum + (part.kind === 'encode' ? part.frames : 0),
    0,
  );
  const frames = files[0]?.measured.video?.frames ?? 0;
  const facts = {
    files,
    bytes: files.reduce((sum, { measured }) => sum + measured.bytes, 0),
    durationUs: files[0]?.measured.durationUs ?? 0,
    takeBytes: recordedBytes(cut, takes),
    clarity,
    colour,
    copiedShare: plan.asItIs ? 1 : frames > 0 ? Math.max(0, 1 - encodedFrames / frames) : 0,
    crf: plan.crf,
  };
  return { facts, isEncodedClearly };
}

async function measureFiles(
  plan: RenderPlan,
  destination: Destination,
  made: readonly MadeFile[],
  signal: AbortSignal,
): Promise<ParcelFile[]> {
  const files: ParcelFile[] = [];
  for (const [i, file] of plan.files.entries()) {
    const path = made[i]?.path;
    if (!path) continue;
    const withLoudness = destination.sound.loudness !== null;
    const measured = await measureFile(path, { withLoudness, signal });
    const parts = destination.tracks === 'mixed' ? 'both' : file.picture ? 'picture' : 'sound';
    files.push({
      name: basename(path),
      title: TITLES[file.name],
      measured,
      rules: rulesOf(destination, file, measured, parts),
    });
  }
  return files;
}

/** A voice alone is mono, program sound keeps its channels. */
function rulesOf(
  destination: Destination,
  file: PlannedFile,
  measured: ParcelFile['measured'],
  parts: 'both' | 'picture' | 'sound',
): ParcelFile['rules'] {
  const channels = file.sound?.encoding.channels ?? destination.sound.channels;
  return checkRules({ ...destination, sound: { ...destination.sound, channels } }, measured, parts);
}

/** The finished files get their place at once: a folder is there whole or not at all. */
async function settleParcel(id: ParcelId, scratch: string, paths: readonly string[]): Promise<void> {
  const ready = `${scratch}/ready`;
  await mkdir(ready);
  for (const path of paths) await rename(path, `${ready}/${basename(path)}`);
  await mkdir(parcelsDir(), { recursive: true });
  await rm(parcelDir(id), { recursive: true, force: true });
  await rename(ready, parcelDir(id));
}
