import { area, curveBumpX, curveMonotoneX } from 'd3-shape';
import { type Amount, type Flow, flowWidth } from '@/core/encoding/flow';

export type FlowKind = 'screen' | 'camera' | 'voice' | 'app-sound';

/** One track as it is drawn: its outline before it is encoded and after, and how wide its estimate may be. */
export type Band = {
  kind: FlowKind;
  raw: string;
  encoded: string;
  /** The widest it may come to; null where nothing is guessed. */
  widest: string | null;
  /** Middle of the raw part and of the encoded part, pixels from the top. */
  rawY: number;
  encodedY: number;
  rawHeight: number;
  encodedHeight: number;
};

export type FlowShape = { bands: Band[]; height: number; columns: readonly number[]; fileBottom: number };

/** Where each stretch of the screen's flow begins, as a share of the width: display, aim, picture, encode, file, and the end. */
export const COLUMNS = [0, 0.195, 0.38, 0.56, 0.775, 1] as const;

/** The colour of each track, everywhere in the flow. */
export const COLOURS: Record<FlowKind, string> = {
  screen: 'river',
  camera: 'plum',
  voice: 'moss',
  'app-sound': 'heron',
};

/** Where a column begins, in pixels. */
export const columnAt = (column: number, width: number): number => (COLUMNS[column] ?? 0) * width;

/** The band of a track; undefined where it carries nothing. */
export const bandOf = ({ bands }: FlowShape, kind: FlowKind): Band | undefined =>
  bands.find((band) => band.kind === kind);

const TOP = 44;
const GAP = 10;
const WIDEST = 64;
const widthOf = ({ value }: Amount) => Math.max(3, WIDEST * flowWidth(value));

type Edge = { x: number; y0: number; y1: number };
const outline = area<Edge>()
  .x(({ x }) => x)
  .y0(({ y0 }) => y0)
  .y1(({ y1 }) => y1);

/**
 * The flow's outlines for a width in pixels. All widths are on one log scale; raw tracks lie apart, in the file they lie together.
 */
export function flowShape(flow: Flow, width: number): FlowShape {
  const [x0 = 0, x1 = 0, x2 = 0, x3 = 0, x4 = 0, x5 = 0] = COLUMNS.map((share) => share * width);
  const shown = flow.screen;
  const tracks = [
    ['screen', shown && { ...shown, raw: shown.display }],
    ['camera', flow.camera],
    ['voice', flow.voice],
    ['app-sound', flow.appSound],
  ] as const;
  const wet = tracks.flatMap(([kind, track]) => (track ? [{ kind, track }] : []));
  const together = wet.reduce((sum, { track }) => sum + widthOf(track.encoded), 0);
  let y = TOP;
  // The file's bundle hangs beside the middle of the screen's band.
  let fileY = TOP + Math.max(0, (widthOf(wet[0]?.track.raw ?? { value: 1, range: null }) - together) / 2);
  const bands = wet.map(({ kind, track }): Band => {
    const rawHeight = widthOf(track.raw);
    const thin = widthOf(track.encoded);
    const middle = y + rawHeight / 2;
    const around = (x: number, centre: number, height: number): Edge => ({
      x,
      y0: centre - height / 2,
      y1: centre + height / 2,
    });
    const fileMiddle = fileY + thin / 2;
    const narrowing =
      kind === 'screen' && shown
        ? [
            around(x0, middle, rawHeight),
            around(x1 - 24, middle, rawHeight),
            around(x1 + 24, middle, widthOf(shown.aim)),
            around(x2 - 24, middle, widthOf(shown.aim)),
            around(x2 + 24, middle, widthOf(shown.picked)),
            around(x3 - 40, middle, widthOf(shown.picked)),
            around(x3 + 24, middle, thin),
          ]
        : [around(x0, middle, rawHeight), around(x3 - 40, middle, rawHeight), around(x3 + 24, middle, thin)];
    const onwards = (height: number) => [
      around(x3 + 24, middle, height),
      around(x4 - 60, middle, height),
      around(x4 + 50, fileMiddle, height),
      around(x5, fileMiddle, height),
    ];
    const most = track.encoded.range ? widthOf({ value: track.encoded.range[1], range: null }) : null;
    const band: Band = {
      kind,
      raw: outline.curve(curveMonotoneX)(narrowing) ?? '',
      encoded: outline.curve(curveBumpX)(onwards(thin)) ?? '',
      widest:
        most === null
          ? null
          : (outline.curve(curveBumpX)([around(x3 + 24, middle, most), around(x4 - 60, middle, most)]) ?? ''),
      rawY: middle,
      encodedY: middle,
      rawHeight,
      encodedHeight: thin,
    };
    y += rawHeight + GAP;
    fileY += thin;
    return band;
  });
  return { bands, height: Math.max(190, y), columns: COLUMNS, fileBottom: fileY };
}
