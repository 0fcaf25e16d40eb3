import type { StepId, TakeId } from '../base/ids';
import { type Area, USUAL_EASE_US, viewAt, views, type Zoom } from './area';
import { type Cut, type Placed, placedPieces, placedSteps, shownAt, stepTimeUs } from './cut';
import { type Hand, NO_HAND } from './hand';

/** A zoom that could be added to a step. `fromUs`, `toUs`: where it is seen in the video. */
export type ZoomProposal = { kind: 'zoom'; fromUs: number; toUs: number; step: StepId; zoom: Zoom };

/** Twice as large: text of a whole display becomes readable in a player in a page. */
const SIDE = 0.5;
/** Clicks that are farther apart do not fit into one zoom with some room around them. */
const MOST_APART = 0.36;
/** The picture stands still before the first click. */
const LEAD_US = USUAL_EASE_US + 300_000;
/** What a click opens is seen for so long; each key that follows makes it longer. */
const TAIL_US = 2_500_000;
const KEY_TAIL_US = 1_500_000;
/** A hand that rests for longer has done with it. */
const REST_US = 6_000_000;
/** Shorter, a zoom is only unrest. */
const LEAST_US = 2 * USUAL_EASE_US + 1_000_000;

type Click = { atUs: number; x: number; y: number };
type Group = { clicks: [Click, ...Click[]]; toUs: number };

/**
 * Zooms to where the hand clicked: clicks that are near one another share one, and typing prolongs it. None overlaps another or a zoom
 * that is there, and none hides a click: where clicks follow one another faster than the picture can move, the whole of it is shown.
 * @param hands of each take, on its clock
 */
export function zoomsToClicks(cut: Cut, hands: ReadonlyMap<TakeId, Hand>): ZoomProposal[] {
  if ([...hands.values()].every(({ clicks }) => clicks.length === 0)) return [];
  const pieces = new Map<StepId, Placed[]>();
  for (const placed of placedPieces(cut)) {
    const own = pieces.get(placed.step.id);
    if (own) own.push(placed);
    else pieces.set(placed.step.id, [placed]);
  }
  return placedSteps(cut).flatMap(({ step, startUs }) => {
    const { clicks, keysUs } = handInStep(pieces.get(step.id) ?? [], hands);
    const lengthUs = stepTimeUs(step);
    const zooms: Zoom[] = [];
    for (const group of groups(clicks, keysUs)) {
      const before = zooms.at(-1);
      const clickUs = group.clicks[0].atUs;
      const fromUs = Math.max(0, clickUs - LEAD_US, before ? before.fromUs + LEAST_US : 0);
      const toUs = Math.min(lengthUs, group.toUs);
      const zoom = { fromUs, toUs, area: areaAround(group.clicks), easeUs: USUAL_EASE_US };
      const isLate = fromUs > clickUs || toUs - fromUs < LEAST_US;
      if (isLate || step.zooms.some((other) => overlaps(zoom, other))) continue;
      // The one before ends sooner where it must: the picture moves straight to the next place.
      if (before) before.toUs = Math.min(before.toUs, fromUs);
      zooms.push(zoom);
    }
    return withoutHiding(zooms, clicks, lengthUs).map((zoom) => ({
      ...{ kind: 'zoom' as const, step: step.id, zoom },
      ...{ fromUs: startUs + shownAt(step, zoom.fromUs), toUs: startUs + shownAt(step, zoom.toUs) },
    }));
  });
}

const overlaps = (a: Pick<Zoom, 'fromUs' | 'toUs'>, b: Pick<Zoom, 'fromUs' | 'toUs'>): boolean =>
  a.fromUs < b.toUs && b.fromUs < a.toUs;

/** Zooms without those during which a click cannot be seen. */
function withoutHiding(zooms: readonly Zoom[], clicks: readonly Click[], lengthUs: number): Zoom[] {
  const keys = views(zooms, lengthUs);
  const isHidden = ({ atUs, x, y }: Click) => {
    const seen = viewAt(keys, atUs);
    return x < seen.x || x > seen.x + seen.width || y < seen.y || y > seen.y + seen.height;
  };
  const hiding = zooms.findIndex(({ fromUs, toUs }) =>
    clicks.some((click) => fromUs <= click.atUs && click.atUs < toUs && isHidden(click)),
  );
  // Without it its neighbours move otherwise: they are looked at again.
  return hiding < 0 ? [...zooms] : withoutHiding(zooms.toSpliced(hiding, 1), clicks, lengthUs);
}

/** Clicks and keys that a step shows, in its own time. */
function handInStep(
  pieces: readonly Placed[],
  hands: ReadonlyMap<TakeId, Hand>,
): { clicks: Click[]; keysUs: number[] } {
  const shown = pieces.filter(({ piece }) => piece.heldUs === undefined);
  const own = <T>(list: (hand: Hand) => readonly T[], us: (each: T) => number) =>
    shown.flatMap(({ piece, stepUs }) =>
      list(hands.get(piece.take) ?? NO_HAND)
        .filter((each) => piece.inUs <= us(each) && us(each) < piece.outUs)
        .map((each) => ({ each, atUs: stepUs + us(each) - piece.inUs })),
    );
  const byTime = <T extends { atUs: number }>(list: T[]) => list.sort((a, b) => a.atUs - b.atUs);
  return {
    clicks: byTime(
      own(
        ({ clicks }) => clicks,
        ({ atUs }) => atUs,
      ).map(({ each, atUs }) => ({ ...each, atUs })),
    ),
    keysUs: byTime(
      own(
        ({ keysUs }) => keysUs,
        (us) => us,
      ),
    ).map(({ atUs }) => atUs),
  };
}

/** Clicks that follow one another and fit into one area, with the end of what they began. */
function groups(clicks: readonly Click[], keysUs: readonly number[]): Group[] {
  const all: Group[] = [];
  for (const click of clicks) {
    const group = all.at(-1);
    const together = group && [...group.clicks, click];
    if (group && together && click.atUs <= group.toUs - TAIL_US + REST_US && spread(together) <= MOST_APART)
      group.clicks.push(click);
    else all.push({ clicks: [click], toUs: 0 });
    const last = all.at(-1) as Group;
    last.toUs = endOf(click.atUs, nextAfter(clicks, click.atUs), keysUs);
  }
  return all;
}

const nextAfter = (clicks: readonly Click[], us: number): number =>
  clicks.find(({ atUs }) => atUs > us)?.atUs ?? Number.POSITIVE_INFINITY;

/** When what a click began is over: some seconds after it, or after the last key of those that follow without a rest. */
function endOf(clickUs: number, nextUs: number, keysUs: readonly number[]): number {
  let [toUs, lastUs] = [clickUs + TAIL_US, clickUs];
  for (const keyUs of keysUs) {
    if (keyUs <= lastUs) continue;
    if (keyUs >= nextUs || keyUs - lastUs > REST_US) break;
    lastUs = keyUs;
    toUs = Math.max(toUs, keyUs + KEY_TAIL_US);
  }
  return toUs;
}

const range = (values: readonly number[]) => [Math.min(...values), Math.max(...values)] as const;

function spread(clicks: readonly Click[]): number {
  const [left, right] = range(clicks.map(({ x }) => x));
  const [top, bottom] = range(clicks.map(({ y }) => y));
  return Math.max(right - left, bottom - top);
}

/** An area of the picture's shape with the clicks in its middle, moved inside the picture. */
function areaAround(clicks: readonly Click[]): Area {
  const start = (values: readonly number[]) => {
    const [least, most] = range(values);
    return Math.max(0, Math.min(1 - SIDE, (least + most - SIDE) / 2));
  };
  return {
    x: start(clicks.map(({ x }) => x)),
    y: start(clicks.map(({ y }) => y)),
    width: SIDE,
    height: SIDE,
  };
}
