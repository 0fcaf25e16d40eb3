/** Decodes the separate tracks of takes and lays them out as a cut says. The page owns the clock, because only it has sound. */
import { newBell } from '@/core/base/bell';
import type { TakeId } from '@/core/base/ids';
import type { Size } from '@/core/base/sizes';
import { evenRect } from '@/core/cut/area';
import { at, type Cut, cutLengthUs, type Here as Place, type Placed } from '@/core/cut/cut';
import { openedAt, openingUs } from '@/core/cut/opening';
import { readingTimeUs } from '@/core/image/reading-time';
import type { SoundKind } from '@/core/recording/take';
import { drawReel, seenAlike, seenOf } from './draw';
import { drawOpening, type Standing, standing } from './draw-opening';
import { mayDraw } from './draw-pace';
import { gathered } from './gather';
import { lumaOf } from './luma-of';
import { type FromPlayer, type PlayerTake, ToPlayer } from './messages';
import type { Advance } from './picture-lane';
import { decodeSound, type Lane, lanesIn, openReel, type Reel, screenAt, seenAt } from './reels';
import { sendSounds } from './sounds-ahead';

/** Pictures are only due while it plays. */
const NOTHING_DUE = { due: 0, missed: 0 };

let pageOriginMs = performance.timeOrigin;
const pageNowMs = () => performance.timeOrigin - pageOriginMs + performance.now();

let pen: OffscreenCanvasRenderingContext2D | null = null;
let reels: Reel[] = [];
let cut: Cut | null = null;
/** Place in the cut. */
let positionUs = 0;
let anchor: { us: number; pageMs: number; speed: number } | null = null;
/** The one sound that is heard; null for all of them. */
let solo: SoundKind | null = null;
/** The page's count of the play whose sound is wanted. */
let sounding: number | null = null;
/** Rings with every report of the clock, every 200 ms, and when other sounds are wanted. */
const clock = newBell();
let seeks = 0;
let draws = 0;
/** The page's count of the place that is shown, or being made. */
let asked = 0;
/** The piece that is being played. */
let playing: Placed | null = null;
/** The picture over which a step comes in. */
let before: Standing | null = null;
/** How the picture was zoomed and covered when it was drawn last. */
let drawn: ReturnType<typeof seenOf> | null = null;
/** Place of the picture that was drawn last while it plays. */
let drawnUs = Number.NEGATIVE_INFINITY;
/** The next picture is on its way to the canvas. */
let isDrawing = false;

const tell = (message: FromPlayer, transfer: Transferable[] = []) => postMessage(message, { transfer });
const failed = (what: string) => (error: unknown) =>
  tell({ type: 'failed', message: `${what}: ${error instanceof Error ? error.message : error}` });

type Here = { reel: Reel; place: Place };

const seenHere = ({ reel, place }: Here): Lane[] => seenAt(reel, place.takeUs, place.step.layout);

/** The picture at a place of the cut. */
function here(us: number): Here | null {
  if (!cut) return null;
  const place = at(cut, us);
  const reel = reels.find(({ take }) => take === place.piece.take);
  return reel ? { reel, place } : null;
}

/** As in the finished video: that of the first screen of the take that it begins with. */
function pictureSize(): Size {
  const first = cut?.steps[0]?.pieces[0]?.take;
  const reel = reels.find(({ take }) => take === first) ?? reels[0];
  return reel?.lanes[0]?.size ?? { width: 1280, height: 720 };
}

async function load(takes: PlayerTake[]): Promise<void> {
  reels = await Promise.all(takes.map(openReel));
  tell({ type: 'loaded', ...pictureSize() });
  // Somebody may have wished for a place before there was anything to show.
  await seek(positionUs, asked);
}

/** Draws the picture of a place. @returns whether it was drawn; a later call ends an earlier one */
async function draw(us = positionUs): Promise<boolean> {
  const now = here(us);
  if (!pen || !now) return false;
  const mine = ++draws;
  if (!(await drawReel(pen, pictureSize(), now, () => mine === draws))) return false;
  drawn = seenOf(now.place.step, now.place.hereUs);
  const opened = openedAt(now.place, us);
  if (opened && before?.beforeUs === opened.beforeUs) drawOpening(pen, opened, before);
  return true;
}
const undrawn = failed('The picture could not be drawn');

/** Shows the picture that stands while a step comes in, unless it is known, and keeps it. */
async function prepareOpening(place: Place, us: number, isWanted: () => boolean): Promise<void> {
  const opened = openedAt(place, us);
  if (!opened || before?.beforeUs === opened.beforeUs) return;
  const last = here(opened.beforeUs);
  if (!last) return;
  await Promise.all(seenHere(last).map(({ lane }) => lane.show(last.place.takeUs)));
  if (!isWanted() || !pen) return;
  await draw(opened.beforeUs);
  if (!isWanted()) return;
  before = standing(pen, opened.beforeUs);
}

/**
 * Shows the exact pictures; a newer seek ends an older one.
 * @param of the page's count
 * @param byKeys whether the keyframes before them are shown until they are there
 */
async function seek(us: number, of: number, byKeys = true): Promise<void> {
  const mine = ++seeks;
  asked = of;
  positionUs = Math.max(0, Math.min(us, cut ? cutLengthUs(cut) : 0));
  const now = here(positionUs);
  if (!now) return;
  await prepareOpening(now.place, positionUs, () => mine === seeks);
  if (mine !== seeks) return;
  const lanes = seenHere(now);
  const waiting = new Set(lanes);
  const onPicture = async (lane: Lane, exact: boolean) => {
    waiting.delete(lane);
    // The last lane to show anything of the place may show the exact picture; then that is told below.
    if (mine !== seeks || waiting.size > 0 || exact || !(await draw())) return;
    tell({ type: 'shown', us: positionUs, exact: false, asked, ...NOTHING_DUE });
  };
  await Promise.all(
    lanes.map((lane) =>
      lane.lane
        .show(now.place.takeUs, byKeys ? () => void onPicture(lane, false).catch(undrawn) : undefined)
        .then(() => onPicture(lane, true)),
    ),
  );
  if (mine !== seeks) return;
  await draw();
  if (mine !== seeks) return;
  // Nobody waits for anything now: what lies about the pictures may be decoded.
  for (const { lane } of lanes) lane.settle();
  tell({ type: 'shown', us: positionUs, exact: true, asked, ...NOTHING_DUE });
}

/** How long the text of the screen takes to be read, as far as it is zoomed to. */
function readingNow(): number | null {
  const now = here(positionUs);
  const screen = now && screenAt(now.reel, now.place.takeUs);
  const sample = screen?.lane.shown();
  if (!now || !screen || !sample) return null;
  const { area } = seenOf(now.place.step, now.place.hereUs);
  return readingTimeUs(lumaOf(sample, evenRect(area, screen.size)));
}

/** Where steps have come to that were not shown yet. */
let steppedTo: { us: number; of: number } | null = null;
let stepping = false;

/** Keys come faster than pictures: each picture that is begun is shown, and the next one is that of the newest step. */
async function step(us: number, of: number): Promise<void> {
  steppedTo = { us, of };
  if (stepping) return;
  stepping = true;
  try {
    while (steppedTo !== null) {
      const to = steppedTo;
      steppedTo = null;
      await seek(to.us, to.of, false);
    }
  } finally {
    stepping = false;
  }
}

/** Lets the pictures of a piece run from a place on, or shows the one that it holds. */
function runPiece({ reel, place }: Here): void {
  for (const each of reels) for (const { lane } of each.lanes) lane.halt();
  playing = place;
  drawnUs = Number.NEGATIVE_INFINITY;
  for (const { lane } of lanesIn(reel, place.step.layout)) {
    if (place.piece.heldUs === undefined) lane.run(place.takeUs);
    else
      void lane
        .show(place.takeUs)
        .then(() => playing === place && draw())
        .catch(failed('The picture that is held could not be decoded'));
  }
}

function play(us: number, of: number): void {
  seeks++;
  positionUs = us;
  asked = of;
  sounding = of;
  clock.ring();
  const now = here(us);
  if (!now) return;
  runPiece(now);
  if (!cut) return;
  const soundsOf = (id: TakeId) => reels.find(({ take }) => take === id)?.sounds ?? [];
  void sendSounds(cut, soundsOf, us, (...of) => gathered(decodeSound(...of)), {
    nowUs,
    solo,
    speed: () => anchor?.speed ?? 1,
    clockTold: clock.next,
    wanted: () => sounding === of,
    hear: (place, { sampleRate, planes }, gainDb) =>
      tell(
        { type: 'sound', asked: of, us: place, sampleRate, planes, gainDb },
        planes.map(({ buffer }) => buffer),
      ),
  }).catch(failed('The sound could not be decoded'));
}

/** The playback position, in whole µs. It does not move before the clock first reports. */
const nowUs = () =>
  anchor ? Math.round(anchor.us + (pageNowMs() - anchor.pageMs) * 1000 * anchor.speed) : positionUs;

function frame(): void {
  requestAnimationFrame(frame);
  if (!anchor || !cut) return;
  positionUs = Math.max(positionUs, Math.min(nowUs(), cutLengthUs(cut)));
  const now = here(positionUs);
  if (!now) return;
  if (playing && now.place.startUs !== playing.startUs) {
    if (pen && openingUs(now.place) > 0) before = standing(pen, now.place.startUs - 1);
    runPiece(now);
  }
  if (isDrawing || !mayDraw(drawnUs, positionUs, now.reel.rate)) return;
  const { step, takeUs, hereUs } = now.place;
  const moved = now.reel.lanes.map(({ lane }) => counted(lane.advance(takeUs), step.speed));
  const sum = (key: 'due' | 'missed') => moved.reduce((all, each) => all + each[key], 0);
  const isMoving =
    openedAt(now.place, positionUs) !== null || !drawn || !seenAlike(drawn, seenOf(step, hereUs));
  if (sum('due') === 0 && !isMoving) {
    tellHeld(now.place);
    return;
  }
  void drawNow({ due: sum('due'), missed: sum('missed') }).catch(undrawn);
}
requestAnimationFrame(frame);

/** Draws the next picture while it plays. */
async function drawNow(advance: Advance): Promise<void> {
  isDrawing = true;
  try {
    const us = positionUs;
    drawnUs = us;
    await draw();
    tell({ type: 'shown', us, exact: true, asked, ...advance });
  } finally {
    isDrawing = false;
  }
}

/** Faster than it was recorded, one picture in some is all that can be seen. */
const counted = (advance: Advance, speed: number): Advance =>
  speed <= 1 || advance.due === 0 ? advance : { due: 1, missed: advance.missed < advance.due ? 0 : 1 };

/** While a picture is held nothing is due, and the place goes on. */
function tellHeld({ piece }: Place): void {
  if (piece.heldUs !== undefined) tell({ type: 'shown', us: positionUs, exact: true, asked, ...NOTHING_DUE });
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = ToPlayer.parse(data);
  switch (message.type) {
    case 'load':
      pageOriginMs = message.pageOriginMs;
      cut = message.cut;
      pen = message.canvas.getContext('2d', { alpha: false });
      load(message.takes).catch(failed('The take could not be opened'));
      break;
    case 'cut':
      steppedTo = null;
      cut = message.cut;
      before = null;
      // Another take that it begins with may have another size.
      if (reels.length > 0) tell({ type: 'loaded', ...pictureSize() });
      void seek(message.us, message.asked).catch(failed('The place could not be shown'));
      break;
    case 'clock':
      anchor = { us: message.us, pageMs: message.pageMs, speed: message.speed };
      clock.ring();
      break;
    case 'play':
      steppedTo = null;
      play(message.us, message.asked);
      break;
    case 'pause':
      if (anchor && cut) positionUs = Math.max(0, Math.min(nowUs(), cutLengthUs(cut)));
      anchor = null;
      playing = null;
      sounding = null;
      clock.ring();
      for (const reel of reels) for (const { lane } of reel.lanes) lane.halt();
      break;
    case 'seek':
      steppedTo = null;
      void seek(message.us, message.asked).catch(failed('The place could not be shown'));
      break;
    case 'step':
      void step(message.us, message.asked).catch(failed('The picture could not be shown'));
      break;
    case 'solo':
      solo = message.track;
      break;
    case 'reading':
      tell({ type: 'reading', us: readingNow() });
      break;
    case 'close':
      for (const reel of reels) for (const { lane } of reel.lanes) lane.close();
      self.close();
      break;
    case 'resize':
      if (pen) {
        pen.canvas.width = message.width;
        pen.canvas.height = message.height;
        before = null;
        void draw().catch(undrawn);
        // The picture that stands in a transition was as large as the canvas before.
        if (cut && !anchor && openedAt(at(cut, positionUs), positionUs))
          void seek(positionUs, asked).catch(failed('The place could not be shown'));
      }
  }
};
