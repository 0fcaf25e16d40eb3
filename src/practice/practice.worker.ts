/** The practice desk's worker: draws and sounds every open practice device against one clock. */
import { percentile } from '@/core/base/percentile';
import { ProblemError, problemOf } from '@/core/base/problem';
import { frameTimeUs } from '@/core/base/rational';
import { withSequence } from '@/core/recording/sequence';
import { ARRANGED } from './desk/arrangement';
import { isView, viewBox, viewItems } from './desk/views';
import { FAULT_CHANNEL, type Fault, FaultOrder } from './faults';
import { type FromPractice, type PictureKind, type SoundKind, ToPractice } from './messages';
import { presenterItems } from './presenter';
import { slideItems } from './slides';
import {
  beep,
  fromFar,
  highTone,
  openVoice,
  programSound,
  SAMPLE_RATE,
  type Sound,
  type Voice,
} from './sounds';
import { loadTypeface } from './sprites';
import { type Item, newStage, type Stage, show } from './stage';
import { cardItems } from './test-card';

type Size = { width: number; height: number };

/** Time origin of the page, whose clock every practice timestamp is in. */
let pageOriginMs = performance.timeOrigin;
const nowUs = () => (performance.timeOrigin - pageOriginMs + performance.now()) * 1000;
/**
 * Sound is stamped in the clock of the context that writes it, and the browser turns that into the clock of whoever reads: the
 * difference of the two is all that it changes. Pictures keep their timestamps as they are.
 */
const ownUs = (pageUs: number) => Math.round(pageUs - (performance.timeOrigin - pageOriginMs) * 1000);
const CHUNK = SAMPLE_RATE / 100;

let cueUs = nowUs();
let cues = 0;
const typeface = loadTypeface();
const stops = new Map<number, () => void>();
const agains = new Map<number, () => void>();
/** Devices that give nothing while they are handed from one reader to the next. */
const held = new Set<number>();
type Device = PictureKind | SoundKind;
/** Which device an open track belongs to. */
const devices = new Map<number, Device>();
const faults = new Map<Device, Fault>();

new BroadcastChannel(FAULT_CHANNEL).onmessage = ({ data }: MessageEvent<unknown>) => {
  const { device, fault } = FaultOrder.parse(data);
  const wasGone = faults.get(device)?.kind === 'gone';
  if (fault) faults.set(device, fault);
  else faults.delete(device);
  if (fault?.kind === 'gone') for (const [id, of] of devices) if (of === device) stops.get(id)?.();
  if (wasGone !== (fault?.kind === 'gone')) tell({ type: 'devices' });
};

/** @throws {ProblemError} when the device is unplugged */
function plugIn(id: number, device: Device): void {
  if (faults.get(device)?.kind === 'gone')
    throw new ProblemError({
      code: 'no-device',
      message: 'The practice device is unplugged.',
      hint: 'It is used again as soon as it is back.',
    });
  devices.set(id, device);
}

/** A camera never rests; a display speaks only of changes. */
const mayRest = (kind: PictureKind): boolean => isView(kind) || kind === 'slides';
const isCamera = (kind: PictureKind): boolean => kind === 'presenter' || kind === 'presenter-green';

const tell = (message: FromPractice) => postMessage(message);

/** Where the windows of the displays stand. */
let arrangement = ARRANGED;

const itemsOf = (kind: PictureKind, ms: number, size: Size): Item[] =>
  isView(kind)
    ? viewItems(kind, ms, arrangement)
    : kind === 'test-card'
      ? cardItems(ms, size)
      : kind === 'slides'
        ? slideItems(ms)
        : presenterItems(ms, size, kind === 'presenter' ? 'room' : 'green-wall');

const pictureOf = (stage: Stage, timestamp: number, duration: number) =>
  new VideoFrame(stage.picture.data, {
    format: 'I420',
    codedWidth: stage.picture.width,
    codedHeight: stage.picture.height,
    timestamp,
    duration,
    colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
  });

/** Hands something to a track, late when the device is. A track that was stopped takes nothing more: then the device stops too. */
function give<T extends VideoFrame | AudioData>(
  writer: WritableStreamDefaultWriter<T>,
  thing: T,
  id: number,
): void {
  const fault = faults.get(devices.get(id) as Device);
  if (fault?.kind === 'late') setTimeout(() => hand(writer, thing, id), fault.ms);
  else hand(writer, thing, id);
}

function hand<T extends VideoFrame | AudioData>(
  writer: WritableStreamDefaultWriter<T>,
  thing: T,
  id: number,
): void {
  writer.write(thing).catch(() => {
    thing.close();
    stops.get(id)?.();
  });
}

function closeDevice(id: number, writer: WritableStreamDefaultWriter): void {
  stops.delete(id);
  agains.delete(id);
  held.delete(id);
  devices.delete(id);
  void writer
    .close()
    .catch(() => undefined)
    .then(() => tell({ type: 'closed', id }));
}

/** Draws on the frame grid of the script's clock. Like a real display it delivers only what changed. */
async function openPicture(
  id: number,
  kind: PictureKind,
  size: Size,
  rate: { num: number; den: number },
  writable: WritableStream<VideoFrame>,
) {
  await typeface;
  plugIn(id, kind);
  const writer = writable.getWriter();
  const first = isView(kind) ? viewBox(kind, arrangement) : size;
  let stage = newStage(first.width, first.height);
  let made = 0;
  const duration = frameTimeUs(1, rate);
  let [next, round] = [0, cues];
  /** Counts what should have been made: a slot that came too late is missing in the count as well. */
  let sequence = 0;
  let opened = false;
  let askedFor = false;
  agains.set(id, () => {
    held.delete(id);
    askedFor = true;
  });
  let timer: ReturnType<typeof setTimeout>;
  let lastUs = Number.NEGATIVE_INFINITY;
  const draw = () => {
    if (round !== cues) {
      // A cue is no loss: the slot that comes next is the one that was wanted.
      next = Math.max(0, Math.floor(((nowUs() - cueUs) * rate.num) / (1_000_000 * rate.den)));
      round = cues;
    }
    const now = nowUs();
    // A picture that is already due when the last one is ready is made at once; missed ones are not made up for.
    const due = Math.floor(((now - cueUs) * rate.num) / (1_000_000 * rate.den));
    if (due >= next) {
      const late = due - next;
      next = due + 1;
      const fault = faults.get(kind);
      const given = fault?.kind === 'resized' ? fault.size : isView(kind) ? viewBox(kind, arrangement) : size;
      if (given.width !== stage.picture.width || given.height !== stage.picture.height) {
        stage = newStage(given.width, given.height);
        opened = false;
      }
      const changed = show(stage, itemsOf(kind, frameTimeUs(due, rate) / 1000, given));
      const timestamp = Math.round(cueUs + frameTimeUs(due, rate));
      // A display that was just opened shows itself, changed or not; later it speaks only of changes. A camera never rests.
      const withheld =
        held.has(id) || fault?.kind === 'stuck' || (fault?.kind === 'fewer' && made++ % fault.oneOf !== 0);
      // What was withheld is shown with the next picture, changed or not.
      if (withheld && changed) opened = false;
      if ((changed || !opened || askedFor || isCamera(kind)) && timestamp > lastUs && !withheld) {
        lastUs = timestamp;
        // Only what never rests surely missed a picture; a desk may have had nothing to show.
        sequence += opened && !mayRest(kind) ? 1 + late : 1;
        [opened, askedFor] = [true, false];
        give(writer, pictureOf(stage, withSequence(timestamp, sequence), duration), id);
      }
    }
    timer = setTimeout(draw, Math.max(1, (cueUs + frameTimeUs(next, rate) - nowUs()) / 1000));
  };
  stops.set(id, () => {
    clearTimeout(timer);
    closeDevice(id, writer);
  });
  draw();
}

let voice: Voice | null = null;
/** It is read many times faster than it is heard, so this much of it in advance is enough. */
const READ_AHEAD = 2 * SAMPLE_RATE;

/** @param at the sample at which it is heard first */
async function soundOf(kind: SoundKind, at: number): Promise<Sound> {
  if (kind === 'beep') return beep;
  if (kind === 'high-tone') return highTone;
  if (kind === 'program-sound') return programSound;
  voice ??= openVoice();
  try {
    await voice.readUntil(at + READ_AHEAD);
  } catch (error) {
    // The next one who asks has it fetched again.
    voice = null;
    throw error;
  }
  return kind === 'voice' ? voice.sound : fromFar(voice.sound);
}

/** How many samples have passed since the scripts began. */
const samplesNow = () => ((nowUs() - cueUs) * SAMPLE_RATE) / 1e6;

async function openSound(id: number, kind: SoundKind, writable: WritableStream<AudioData>) {
  const sound = await soundOf(kind, samplesNow());
  plugIn(id, kind);
  const writer = writable.getWriter();
  let [placed, round] = [Math.floor(samplesNow() / CHUNK) * CHUNK, cues];
  let before = cueUs;
  const sendChunk = (data: Float32Array<ArrayBuffer>, startUs: number) =>
    give(
      writer,
      new AudioData({
        format: 'f32-planar',
        sampleRate: SAMPLE_RATE,
        numberOfChannels: 1,
        numberOfFrames: data.length,
        timestamp: ownUs(startUs),
        data,
      }),
      id,
    );
  const timer = setInterval(() => {
    if (round !== cues) {
      // A real device knows no cue: the samples up to it are there, and silent, so that its line never breaks.
      const rest = Math.round(((cueUs - before) * SAMPLE_RATE) / 1e6) - placed;
      if (rest > 0) sendChunk(new Float32Array(rest), before + (placed * 1e6) / SAMPLE_RATE);
      [placed, round] = [0, cues];
    }
    before = cueUs;
    // Like a sound card: a chunk is handed over when its last sample has been heard.
    const until = samplesNow();
    while (placed + CHUNK <= until) {
      const data = new Float32Array(CHUNK);
      const fault = faults.get(kind);
      if (fault?.kind === 'stuck') {
        placed += CHUNK;
        continue;
      }
      if (fault?.kind !== 'silent') sound(placed, data);
      sendChunk(data, cueUs + (placed * 1e6) / SAMPLE_RATE);
      placed += CHUNK;
    }
  }, 10);
  stops.set(id, () => {
    clearInterval(timer);
    closeDevice(id, writer);
  });
}

function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return a.length === b.length;
}

/** Prime, so that no rhythm of a script hides between. */
const COMPARED_EVERY = 7;

/** Cost of a frame, all in, over a whole script; and whether a picture drawn afresh equals the one that was stepped to. */
async function measure(kind: PictureKind, size: Size, frames: number) {
  await typeface;
  const stage = newStage(size.width, size.height);
  const cost: number[] = [];
  let identical = true;
  for (let n = 0; n < frames; n++) {
    const ms = (n * 1000) / 30;
    const began = performance.now();
    show(stage, itemsOf(kind, ms, size));
    pictureOf(stage, n, 0).close();
    // The first pass draws text that are kept; a script is watched more than once.
    cost.push(performance.now() - began);
    if (n % COMPARED_EVERY === 0) {
      const fresh = newStage(size.width, size.height);
      show(fresh, itemsOf(kind, ms, size));
      identical &&= sameBytes(fresh.picture.data, stage.picture.data);
    }
  }
  const meanMs = cost.reduce((a, b) => a + b, 0) / cost.length;
  tell({ type: 'measured', meanMs, p95Ms: percentile(cost, 0.95), identical });
}

/** Single pictures, each drawn over the one before it, which gives the same bytes as drawing it afresh. */
async function drawAt(kind: PictureKind, size: Size, atMs: readonly number[]) {
  await typeface;
  const box = isView(kind) ? viewBox(kind, arrangement) : size;
  const stage = newStage(box.width, box.height);
  for (const ms of atMs) {
    show(stage, itemsOf(kind, ms, box));
    const { width, height, data } = stage.picture;
    tell({ type: 'drawn', size: { width, height }, data });
  }
}

/** Closing the streams takes a moment. */
const LINGER_MS = 5000;

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = ToPractice.parse(data);
  if (message.type === 'start') {
    pageOriginMs = message.pageOriginMs;
    cueUs = nowUs();
  } else if (message.type === 'cue') {
    cueUs = nowUs();
    cues++;
    tell({ type: 'cued', cueUs });
  } else if (message.type === 'arrange') arrangement = message.arrangement;
  else if (message.type === 'close') stops.get(message.id)?.();
  else if (message.type === 'hold') {
    held.add(message.id);
    tell({ type: 'held', id: message.id });
  } else if (message.type === 'again') agains.get(message.id)?.();
  else if (message.type === 'draw') void drawAt(message.kind, message.size, message.atMs);
  else if (message.type === 'end') {
    for (const stop of stops.values()) stop();
    // Only closed streams leave no picture behind.
    setTimeout(() => self.close(), LINGER_MS);
  } else if (message.type === 'measure') void measure(message.kind, message.size, message.frames);
  else {
    const opening =
      message.type === 'open-picture'
        ? openPicture(message.id, message.kind, message.size, message.rate, message.writable)
        : openSound(message.id, message.kind, message.writable);
    opening.then(
      () => tell({ type: 'opened', id: message.id }),
      (error) => tell({ type: 'failed', id: message.id, problem: problemOf(error) }),
    );
  }
};
