import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sameValue } from '../base/same-value';
import { chooseCodec } from '../encoding/encoder-speed';
import { flowOf } from '../encoding/flow';
import { isBehind, lessDetail } from '../recording/less-detail';
import { changedSince, propose, restored, standingReasons } from './purposes';
import { keyframeDistance, PRACTICE_RIG, PurposeKind, Rig, RigDocument } from './rig';
import { differences, RIG_CHOICES } from './rig-choices';
import { valueAt, withValue } from './rig-values';

const purposes = fc.record({
  kind: fc.constantFrom(...PurposeKind.options),
  machine: fc.constantFrom('strong' as const, 'weak' as const),
});

it('reads a document of the first version as the present one', () => {
  const { purpose: _, names: __, stores: ___, limits, afterStop, plannedLengthS, ...rest } = PRACTICE_RIG;
  const {
    aim,
    follow,
    regions,
    viewer,
    fit,
    filter,
    pointer,
    speed,
    profile,
    level,
    rateControl,
    ...picture
  } = rest.picture;
  const { quantizer, whenBehind, hardware, keyframeEvery, ...old } = picture;
  const first = { ...rest, version: 1, picture: { ...old, codec: 'h264', keyframeEveryS: 2 } };
  expect(Rig.parse(first)).toEqual({ ...PRACTICE_RIG, picture: { ...PRACTICE_RIG.picture, codec: 'h264' } });
  expect(Rig.safeParse({ ...first, version: 4 }).success).toBe(false);
  expect(Rig.safeParse(null).success).toBe(false);
  // What no version does yet is refused, and not kept in silence.
  expect(Rig.safeParse(withValue(PRACTICE_RIG, 'picture.filter', 'nearest' as never)).success).toBe(false);
  expect(Rig.safeParse(withValue(PRACTICE_RIG, 'names.pattern', '{leson}')).success).toBe(false);
  // Keys were part of a rig once.
  expect(Rig.parse({ ...PRACTICE_RIG, version: 2, keys: { record: 'q' } })).toEqual(PRACTICE_RIG);
});

it('proposes a valid rig for every purpose, with a reason for each of its values', () => {
  fc.assert(
    fc.property(purposes, purposes, (before, purpose) => {
      const { rig, reasons } = propose(purpose, propose(before, PRACTICE_RIG).rig);
      expect(RigDocument.parse(rig)).toEqual(rig);
      expect(Object.keys(reasons).sort()).toEqual(RIG_CHOICES.map(({ path }) => path).sort());
      expect(Object.keys(standingReasons(rig)).sort()).toEqual(Object.keys(reasons).sort());
      expect(changedSince(rig)).toEqual([]);
    }),
  );
});

it('takes away the reason of what is changed, and gives one or all values back', () => {
  const { rig } = propose({ kind: 'lesson', machine: 'strong' }, PRACTICE_RIG);
  const own = withValue(withValue(rig, 'picture.frameRate', { num: 25, den: 1 }), 'countdownS', 5);
  expect(changedSince(own).map(({ path }) => path)).toEqual(['picture.frameRate', 'countdownS']);
  expect(standingReasons(own)['picture.frameRate']).toBeUndefined();
  expect(differences(restored(own, 'countdownS'), own).map(({ path }) => path)).toEqual(['countdownS']);
  expect(restored(own)).toEqual(rig);
});

it('changes one value and no other', () => {
  for (const { path } of RIG_CHOICES) {
    const changed = withValue(PRACTICE_RIG, path, 'other');
    expect(valueAt(changed, path)).toBe('other');
    expect(differences(PRACTICE_RIG, changed).map((choice) => choice.path)).toEqual([path]);
  }
  expect(sameValue({ a: 1, b: [2] }, { b: [2], a: 1 })).toBe(true);
  expect(sameValue({ a: 1 }, { a: 1, b: undefined })).toBe(true);
});

it('knows the distance of keyframes in seconds and in frames', () => {
  const at = (num: number, den: number, keyframeEvery: Rig['picture']['keyframeEvery']) =>
    keyframeDistance({ ...PRACTICE_RIG.picture, frameRate: { num, den }, keyframeEvery });
  expect(at(30_000, 1001, { unit: 'seconds', value: 2 })).toEqual({ s: 2, frames: 60 });
  expect(at(25, 1, { unit: 'frames', value: 50 })).toEqual({ s: 2, frames: 50 });
});

it('chooses what opens everywhere where it keeps up, and the fastest where it does not', () => {
  const speed = (codec: 'h264' | 'vp9', framesPerSecond: number) => ({
    codec,
    framesPerSecond,
    textHint: false,
    kbps: 1000,
    hardware: null,
    quantizer: codec === 'vp9',
    constantOverAverage: 1,
  });
  const picture = PRACTICE_RIG.picture;
  expect(chooseCodec(picture, []).codec).toBe('h264');
  expect(chooseCodec(picture, [speed('h264', 50), speed('vp9', 90)]).codec).toBe('h264');
  expect(chooseCodec(picture, [speed('h264', 40), speed('vp9', 90)]).codec).toBe('vp9');
  expect(
    chooseCodec({ ...picture, rateControl: 'quantizer' }, [speed('h264', 90), speed('vp9', 20)]).codec,
  ).toBe('vp9');
  expect(chooseCodec({ ...picture, codec: 'av1' }, [speed('h264', 90)]).codec).toBe('av1');
});

it('loses detail step by step, and only when really behind', () => {
  expect([isBehind(60, 3), isBehind(60, 4), isBehind(0, 0)]).toEqual([false, true, false]);
  const steps = [{ hint: true, scale: 1 }];
  for (let next = lessDetail({ hint: true, scale: 1 }); next; next = lessDetail(next)) steps.push(next);
  expect(steps).toEqual([
    { hint: true, scale: 1 },
    { hint: false, scale: 1 },
    { hint: false, scale: 0.75 },
    { hint: false, scale: 0.5625 },
  ]);
});

it('shows a flow that narrows, whose file is the sum of its tracks', () => {
  fc.assert(
    fc.property(purposes, fc.constantFrom(640, 1366, 1920, 3840), (purpose, width) => {
      const { rig } = propose(purpose, PRACTICE_RIG);
      const source = { width, height: Math.round((width * 9) / 32) * 2 };
      const flow = flowOf(rig, { source, codec: 'h264', textHint: true });
      const tracks = [
        flow.screen?.encoded,
        flow.camera?.encoded,
        flow.voice?.encoded,
        flow.appSound?.encoded,
      ];
      const sum = tracks.reduce((all, amount) => all + (amount?.value ?? 0), 0);
      expect(flow.file.value).toBeCloseTo(sum, 3);
      expect(flow.megabytesAMinute.value).toBeCloseTo((sum * 60) / 8e6, 6);
      if (flow.screen) {
        const { display, aim, picked, encoded } = flow.screen;
        expect(aim.value).toBeLessThanOrEqual(display.value);
        expect(picked.value).toBeLessThanOrEqual(aim.value);
        expect(encoded.range?.[0]).toBeLessThanOrEqual(encoded.value);
        expect(encoded.range?.[1]).toBeGreaterThanOrEqual(encoded.value);
      }
    }),
  );
  const lapse = withValue(PRACTICE_RIG, 'picture.speed', { num: 1, den: 10 });
  const known = { source: { width: 1920, height: 1080 }, codec: 'h264' as const, textHint: true };
  const [work, film] = [flowOf(PRACTICE_RIG, known), flowOf(lapse, known)];
  expect(film.screen?.encoded.value).toBeCloseTo((work.screen?.encoded.value ?? 0) / 10);
  expect([film.voice, film.appSound]).toEqual([null, null]);
});
