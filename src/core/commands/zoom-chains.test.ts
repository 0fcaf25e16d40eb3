import fc from 'fast-check';
import { expect, it } from 'vitest';
import { frameTimeUs } from '../base/rational';
import { alignedViews, viewAt, views, type Zoom } from '../cut/area';
import { zoomChains } from './zoom-chains';

const RATE = { num: 30, den: 1 };
const SIZE = { width: 1280, height: 720 };
const EVERY_US = 4_000_000;

/** Zooms one after the other, each somewhere else. */
const zooms = fc
  .array(
    fc.record({
      x: fc.float({ min: 0, max: 0.5, noNaN: true }),
      y: fc.float({ min: 0, max: 0.5, noNaN: true }),
      side: fc.float({ min: Math.fround(0.2), max: 0.5, noNaN: true }),
      easeUs: fc.integer({ min: 200_000, max: 900_000 }),
      lengthUs: fc.integer({ min: 2_000_000, max: 4_000_000 }),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((all): Zoom[] =>
    all.map(({ x, y, side, easeUs, lengthUs }, i) => ({
      ...{ fromUs: i * EVERY_US, toUs: i * EVERY_US + lengthUs, easeUs },
      area: { x, y, width: side, height: side },
    })),
  );

/** What ffmpeg makes of an expression over a frame of a run, `in` being counted from 1 on. */
function evaluated(expression: string, frame: number): number {
  const kept: number[] = [];
  const names = {
    ...{ W: SIZE.width, H: SIZE.height, ON: frame + 1 },
    lt: (a: number, b: number) => (a < b ? 1 : 0),
    st: (n: number, value: number) => {
      kept[n] = value;
      return value;
    },
    ld: (n: number) => kept[n],
    choose: (test: number, yes: () => number, no: () => number) => (test ? yes() : no()),
  };
  const code = lazily(expression.replace(/\(in-1/g, '(ON-1'));
  return new Function(...Object.keys(names), `return ${code}`)(...Object.values(names));
}

/** `if(a,b,c)` evaluates one of its branches only. */
function lazily(text: string): string {
  const at = text.indexOf('if(');
  if (at < 0) return text;
  const commas: number[] = [];
  let [depth, end] = [1, at + 3];
  for (; depth > 0; end++) {
    const letter = text[end];
    if (letter === '(') depth++;
    if (letter === ')') depth--;
    if (letter === ',' && depth === 1) commas.push(end);
  }
  const [first = 0, second = 0] = commas;
  const [test, yes, no] = [
    text.slice(at + 3, first),
    text.slice(first + 1, second),
    text.slice(second + 1, end - 1),
  ].map(lazily);
  return `${text.slice(0, at)}choose(${test},()=>${yes},()=>${no})${lazily(text.slice(end))}`;
}

const chainsOf = (all: readonly Zoom[], frames: number) =>
  zoomChains('[0:v]null', views(all, frameTimeUs(frames, RATE)), frames, RATE, SIZE, 'z');

it('moves through every frame as the player does, whichever of the zooms it belongs to', () => {
  fc.assert(
    fc.property(zooms, (all) => {
      const frames = ((all.length * EVERY_US) / 1e6) * RATE.num;
      const aligned = alignedViews(views(all, frameTimeUs(frames, RATE)), SIZE);
      for (const chain of chainsOf(all, frames)) {
        const trim = /trim=start_frame=(\d+):end_frame=(\d+)/.exec(chain);
        const corners = ['x0', 'y0', 'x3', 'y3'].map(
          (name) => new RegExp(`${name}='([^']*)'`).exec(chain)?.[1],
        );
        if (!trim || !corners[0]) continue;
        const [from, to] = [Number(trim[1]), Number(trim[2])];
        for (let frame = from; frame < to; frame += 3) {
          const { x, y, width, height } = viewAt(aligned, frameTimeUs(frame, RATE));
          const [left, top] = [SIZE.width * x + (width - 1) / 2, SIZE.height * y + (height - 1) / 2];
          const [right, bottom] = [left + SIZE.width * width, top + SIZE.height * height];
          const seen = corners.map((each) => evaluated(each ?? '', frame - from));
          [left, top, right, bottom].forEach((wanted, i) => {
            expect(Math.abs((seen[i] ?? Number.NaN) - wanted)).toBeLessThan(0.05);
          });
        }
      }
    }),
    { numRuns: 40 },
  );
});

it('is as long as its zooms, not as their square', () => {
  const bytes = (count: number) => {
    const all = Array.from({ length: count }, (_, i) => ({
      ...{ fromUs: i * EVERY_US, toUs: i * EVERY_US + 3_000_000, easeUs: 500_000 },
      area: { x: 0.1, y: 0.1 + 0.3 * (i % 2), width: 0.5, height: 0.5 },
    }));
    return chainsOf(all, count * 120).join(';').length;
  };
  expect(bytes(200) / bytes(20)).toBeLessThan(12);
});
