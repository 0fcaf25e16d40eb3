import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cutWithTakes, plainCut, renderTake, TAKE_US } from '../../../tests/support/made-up';
import { newTakeId } from '../base/ids';
import { frameTimeUs } from '../base/rational';
import { cutLengthUs, placedSteps, type Step } from '../cut/cut';
import { DESTINATIONS, type Destination } from '../destination/destination';
import { pictureRules } from '../destination/rules';
import { expectedSize } from './expect';
import { planRender } from './plan';
import { planWords } from './plan-words';
import { MIX_RATE } from './sound-piece';

const destination = fc.constantFrom(...DESTINATIONS);
/** Longer than a frame at any rate. */
const lasting = cutWithTakes.filter(({ cut }) => cutLengthUs(cut) > 200_000);
const named = (id: string) => DESTINATIONS.find((one) => one.id === id) as Destination;

it('parts follow one another without a gap, and their frames are those of the video', () => {
  fc.assert(
    fc.property(lasting, destination, ({ cut, takes }, destination) => {
      const plan = planRender(cut, destination, takes);
      for (const { picture } of plan.files) {
        if (!picture || plan.way.way !== 'encode') continue;
        let frame = 0;
        for (const part of picture.parts) {
          expect(part.kind).toBe('encode');
          if (part.kind === 'copy') continue;
          expect(part.atUs).toBe(frameTimeUs(frame, plan.rate));
          expect(part.durationUs).toBe(frameTimeUs(part.frames, plan.rate));
          frame += part.frames;
        }
        expect(frameTimeUs(frame, plan.rate)).toBe(plan.durationUs);
      }
    }),
  );
});

it('of no frame at all there is nothing to deliver, and of one there is', () => {
  const take = newTakeId();
  fc.assert(
    fc.property(
      renderTake(take),
      destination,
      fc.integer({ min: 1, max: TAKE_US / 2 }),
      (given, to, inUs) => {
        const planned = (lengthUs: number, speed: number) => {
          const cut = plainCut(take, [{ take, inUs, outUs: inUs + lengthUs }]);
          return planRender({ ...cut, steps: cut.steps.map((step) => ({ ...step, speed })) }, to, [given]);
        };
        expect(() => planned(20_000, 8)).toThrow('The video is shorter than a frame.');
        expect(planned(2_000_000, 8).durationUs).toBeGreaterThan(0);
      },
    ),
  );
});

it('every second half at most is looked at once, whatever part it lies in', () => {
  fc.assert(
    fc.property(lasting, destination, ({ cut, takes }, destination) => {
      const plan = planRender(cut, destination, takes);
      fc.pre(plan.way.way === 'encode');
      let before = 0;
      const looked: number[] = [];
      for (const part of plan.files[0]?.picture?.parts ?? []) {
        if (part.kind === 'copy') continue;
        for (const n of part.compared.frames) {
          expect(n).toBeLessThan(part.frames);
          looked.push(before + n);
        }
        before += part.frames;
      }
      const [first = 0, second = first] = looked;
      expect(first).toBe(0);
      const every = second - first;
      expect(looked.slice(1).every((n, i) => n - (looked[i] ?? 0) === every)).toBe(true);
      expect(looked.length).toBeLessThanOrEqual(40);
    }),
  );
});

it('sound is as long as the picture to the sample, with fades where it is cut and nowhere else', () => {
  fc.assert(
    fc.property(lasting, destination, ({ cut, takes }, destination) => {
      const plan = planRender(cut, destination, takes);
      fc.pre(plan.way.way === 'encode');
      for (const { sound } of plan.files) {
        if (!sound) continue;
        const samples = sound.pieces.reduce((sum, piece) => sum + piece.samples, 0);
        expect(Math.abs(samples - (plan.durationUs * MIX_RATE) / 1e6)).toBeLessThanOrEqual(0.6);
        const { pieces } = sound;
        expect(pieces[0]?.fade.in).toBe(true);
        expect(pieces.at(-1)?.fade.out).toBe(true);
        pieces.slice(1).forEach((piece, i) => {
          expect(piece.fade.in).toBe(pieces[i]?.fade.out);
        });
      }
    }),
  );
});

it('copies recorded pictures only when they meet every rule of the place', () => {
  const take = newTakeId();
  const damage = fc.constantFrom(
    {},
    { codec: 'vp9' },
    { level: 62 },
    { width: 7680, height: 4320 },
    { constantRate: false },
    { longestKeyframeGapS: 90 },
    { pixelFormat: 'yuv444p' },
    { rate: { num: 240, den: 1 } },
    { progressive: false },
  );
  const piece = fc
    .tuple(fc.integer({ min: 0, max: 10 }), fc.integer({ min: 1, max: 9 }))
    .map(([inS, lengthS]) => ({ take, inUs: inS * 1e6, outUs: (inS + lengthS) * 1e6 }));
  const ways = new Set<string>();
  fc.assert(
    fc.property(
      renderTake(take),
      fc.oneof(
        fc.constant([{ take, inUs: 0, outUs: TAKE_US }]),
        fc.array(piece, { minLength: 1, maxLength: 3 }),
      ),
      damage,
      destination,
      (given, pieces, damage, destination) => {
        const copies = given.copies.map((copy) => ({ ...copy, video: { ...copy.video, ...damage } }));
        const { way } = planRender(plainCut(take, pieces), destination, [{ ...given, copies }]);
        ways.add(way.way);
        if (way.way === 'encode') return;
        expect(pictureRules(destination, way.source.video).filter(({ met }) => !met)).toEqual([]);
        expect(destination.aim).not.toBe('compact');
        expect(destination.tracks).toBe('mixed');
      },
    ),
    { numRuns: 400 },
  );
  expect([...ways].sort()).toEqual(['encode', 'smart', 'whole']);
});

it('copied and encoded stretches of a cut tile it to the frame', () => {
  const take = newTakeId();
  const piece = fc
    .tuple(fc.integer({ min: 0, max: 10_000 }), fc.integer({ min: 100, max: 9000 }))
    .map(([inMs, lengthMs]) => ({ take, inUs: inMs * 1000, outUs: (inMs + lengthMs) * 1000 }));
  fc.assert(
    fc.property(
      renderTake(take).filter(({ copies }) => copies.length > 0),
      fc.array(piece, { minLength: 1, maxLength: 4 }),
      (given, pieces) => {
        const plan = planRender(plainCut(take, pieces), named('as-recorded'), [given]);
        fc.pre(plan.way.way === 'smart');
        const frameUs = frameTimeUs(1, plan.rate);
        let atUs = 0;
        for (const part of plan.files[0]?.picture?.parts ?? []) {
          expect(Math.abs(part.atUs - atUs)).toBeLessThanOrEqual(frameUs);
          const lengthUs =
            part.kind === 'encode' ? part.durationUs : Math.min(part.toUs, TAKE_US) - part.fromUs;
          atUs = part.atUs + lengthUs;
        }
        expect(Math.abs(atUs - plan.durationUs)).toBeLessThanOrEqual(2 * frameUs);
      },
    ),
  );
});

it('copies steps without effects beside steps with them, and every frame of the others is composed', () => {
  const take = newTakeId();
  const zoom = { fromUs: 0, toUs: 900_000, area: { x: 0, y: 0, width: 0.5, height: 0.5 }, easeUs: 0 };
  const one = fc.record({
    inMs: fc.integer({ min: 0, max: 10_000 }),
    lengthMs: fc.integer({ min: 1000, max: 9000 }),
    isZoomed: fc.boolean(),
  });
  let mixed = 0;
  fc.assert(
    fc.property(
      renderTake(take).filter(({ copies }) => copies.length > 0),
      fc.array(one, { minLength: 2, maxLength: 5 }),
      (given, list) => {
        const steps = list.map(({ inMs, lengthMs, isZoomed }) => {
          const pieces = [{ take, inUs: inMs * 1000, outUs: (inMs + lengthMs) * 1000 }];
          const [step] = plainCut(take, pieces).steps;
          return { ...(step as Step), layout: given.plain.layout, zooms: isZoomed ? [zoom] : [] };
        });
        const cut = { ...plainCut(take, []), steps };
        const plan = planRender(cut, named('as-recorded'), [given]);
        fc.pre(plan.way.way === 'smart');
        const frameUs = frameTimeUs(1, plan.rate);
        const parts = plan.files[0]?.picture?.parts ?? [];
        if (list.some(({ isZoomed }) => isZoomed)) mixed++;
        placedSteps(cut).forEach(({ startUs, endUs }, i) => {
          // A step begins less than a frame beside its time; there the step before may end with a copied frame.
          const inside = parts.filter(({ atUs }) => atUs > startUs + frameUs && atUs < endUs - frameUs);
          const zoomed = parts.filter(
            (part) =>
              part.kind === 'encode' && part.shot.views.length > 0 && Math.abs(part.atUs - startUs) < frameUs,
          );
          if (!list[i]?.isZoomed) {
            for (const part of inside) if (part.kind === 'encode') expect(part.shot.views).toEqual([]);
            expect(zoomed).toEqual([]);
            return;
          }
          expect(inside).toEqual([]);
          expect(zoomed).toMatchObject([{ opening: null }]);
          const [part] = zoomed;
          if (part?.kind !== 'encode') return;
          expect(Math.abs(part.durationUs - (endUs - startUs))).toBeLessThanOrEqual(frameUs);
        });
        let atUs = 0;
        for (const part of parts) {
          expect(Math.abs(part.atUs - atUs)).toBeLessThanOrEqual(frameUs);
          atUs =
            part.atUs +
            (part.kind === 'encode' ? part.durationUs : Math.min(part.toUs, TAKE_US) - part.fromUs);
        }
        expect(Math.abs(atUs - plan.durationUs)).toBeLessThanOrEqual(2 * frameUs);
      },
    ),
    { numRuns: 300 },
  );
  expect(mixed).toBeGreaterThan(10);
});

it('tells a size within its own range, never above a ceiling', () => {
  fc.assert(
    fc.property(
      lasting,
      destination,
      fc.option(fc.integer({ min: 10_000, max: 5_000_000 }), { nil: null }),
      fc.integer({ min: 1000, max: 50_000_000 }),
      ({ cut, takes }, given, maxBytes, recorded) => {
        const destination = { ...given, maxBytes };
        const plan = planRender(cut, destination, takes);
        const { bytes, from, to } = expectedSize(plan, cut, destination, takes, () => recorded);
        expect(from).toBeLessThanOrEqual(bytes);
        expect(bytes).toBeLessThanOrEqual(to);
        if (maxBytes !== null && plan.way.way === 'encode') expect(to).toBeLessThanOrEqual(maxBytes);
      },
    ),
  );
});

it('says of every plan what it does, with the terms of the trade', () => {
  fc.assert(
    fc.property(lasting, destination, ({ cut, takes }, destination) => {
      const { sentence, exact } = planWords(planRender(cut, destination, takes), destination);
      expect(sentence).toMatch(/\.$/);
      expect(exact).toMatch(
        /^(H\.264|AV1)(, CRF \d+, keyframes every [\d.]+ s| as recorded), \d+ × \d+, (frames as recorded|[\d.]+ fps); (AAC|OPUS|PCM) (mono|stereo)/,
      );
    }),
  );
});

it('refuses a cut without a picture with what to do', () => {
  const take = newTakeId();
  const [sound] = fc.sample(renderTake(take), 1);
  const cut = plainCut(take, [{ take, inUs: 0, outUs: TAKE_US }]);
  expect(() => planRender(cut, named('as-recorded'), sound ? [{ ...sound, size: null }] : [])).toThrow(
    'There is no picture to deliver.',
  );
});
