import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { filmPath } from '@/core/commands/encode-part';
import { type Cut, PLAIN_STEP } from '@/core/cut/cut';
import { type Attempt, attempted, firstAttempt, type SampledOutcome } from '@/core/deliver/attempt';
import { planRender } from '@/core/deliver/plan';
import { keyframeEveryS } from '@/core/deliver/quality';
import {
  containerBytes,
  isSampledWhole,
  leastKeyframes,
  pictureBytesBySample,
  type Sampled,
  type Stretch,
  stretchesToSample,
} from '@/core/deliver/sample';
import type { RenderTake } from '@/core/deliver/take-sources';
import type { Destination } from '@/core/destination/destination';
import { lines } from '../media/ffmpeg';
import { sizeOf } from '../media/media-folder';
import { comparedOf, type JudgedPicture } from './compare';
import { makePart } from './make-part';
import { makeSound } from './sound';

/** Sound of so long a stretch tells what its encoder really takes. */
const SOUND_S = 12;

/**
 * What all of a cut is going to take for a destination, from three seconds of it that are encoded and looked at, or from all of a short one.
 * @returns null where nothing is encoded
 */
export async function sampleCut(
  cut: Cut,
  destination: Destination,
  takes: readonly RenderTake[],
  signal: AbortSignal,
): Promise<SampledOutcome | null> {
  const scratch = await mkdtemp(join(tmpdir(), 'otter-sample-'));
  try {
    const attempt = firstAttempt(destination);
    const plan = planRender(cut, destination, takes, attempt.crf);
    if (plan.way.way !== 'encode' || destination.tracks !== 'mixed') return null;
    const stretches = stretchesToSample(cut, takes);
    const looked = [];
    for (const stretch of stretches)
      looked.push(await lookAt(stretch, destination, takes, attempt, scratch, signal));
    const [file] = plan.files;
    const parts = file?.picture?.parts ?? [];
    const partsS = parts.flatMap((part) => (part.kind === 'encode' ? [part.durationUs / 1e6] : []));
    const keyframes = leastKeyframes(partsS, keyframeEveryS(destination));
    const picture = pictureBytesBySample(cut, takes, looked, keyframes);
    const frames = parts.reduce((sum, part) => sum + (part.kind === 'encode' ? part.frames : 0), 0);
    const otherBytes =
      (await soundBytes(cut, destination, takes, plan.durationUs, scratch, signal)) +
      containerBytes(frames, plan.durationUs / 1e6);
    return {
      ...attempt,
      bytes: Math.round(picture + otherBytes),
      otherBytes,
      clear: looked.every(({ clear }) => clear),
      isWhole: isSampledWhole(cut),
    };
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}

async function lookAt(
  stretch: Stretch,
  destination: Destination,
  takes: readonly RenderTake[],
  attempt: Attempt,
  scratch: string,
  signal: AbortSignal,
): Promise<Sampled & { clear: boolean }> {
  const size = takes.find(({ size }) => size)?.size;
  const asked = size ? attempted(destination, attempt, size) : destination;
  const { files } = planRender(stretch.cut, asked, takes, attempt.crf);
  const picture = files[0]?.picture;
  let [keyBytes, otherBytes] = [0, 0];
  const judged: JudgedPicture[] = [];
  for (const part of picture?.parts ?? []) {
    if (!picture || part.kind === 'copy') continue;
    judged.push(...(await makePart(part, picture, scratch, () => undefined, signal)));
    const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=size', '-of', 'csv=p=0'];
    let first = true;
    await lines(
      'ffprobe',
      [...args, '-i', filmPath(part, scratch)],
      (line) => {
        const bytes = Number.parseInt(line, 10) || 0;
        if (first) keyBytes += bytes;
        else otherBytes += bytes;
        first = false;
      },
      signal,
    );
  }
  return { stretch, keyBytes, otherBytes, clear: comparedOf(judged).isEncodedClearly };
}

/** Bytes of the sound of a video, from some seconds of its middle; from all of a short one. */
async function soundBytes(
  cut: Cut,
  destination: Destination,
  takes: readonly RenderTake[],
  durationUs: number,
  scratch: string,
  signal: AbortSignal,
): Promise<number> {
  const heard = isSampledWhole(cut) ? cut : middleOfLongest(cut);
  const plan = heard && planRender(heard, destination, takes);
  const sound = plan?.files[0]?.sound;
  if (!sound) return 0;
  const path = `${scratch}/sound.${destination.sound.codec === 'aac' ? 'm4a' : 'mkv'}`;
  await makeSound(sound, path, signal);
  return Math.round((((await sizeOf(path)) ?? 0) * durationUs) / plan.durationUs);
}

/** Some seconds of the longest piece that runs, at the speed of the take: at another speed sound takes about as many bytes a second. */
function middleOfLongest(cut: Cut): Cut | null {
  const [longest] = cut.steps
    .flatMap((step) => step.pieces.map((piece) => ({ step, piece })))
    .filter(({ piece }) => piece.heldUs === undefined)
    .sort((a, b) => b.piece.outUs - b.piece.inUs - (a.piece.outUs - a.piece.inUs));
  if (!longest) return null;
  const { step, piece } = longest;
  const middle = (piece.inUs + piece.outUs) / 2;
  const inUs = Math.round(Math.max(piece.inUs, middle - (SOUND_S / 2) * 1e6));
  const outUs = Math.round(Math.min(piece.outUs, middle + (SOUND_S / 2) * 1e6));
  return { ...cut, steps: [{ ...step, ...PLAIN_STEP, pieces: [{ ...piece, inUs, outUs }] }] };
}
