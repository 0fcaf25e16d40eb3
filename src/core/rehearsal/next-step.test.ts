import { describe, expect, it } from 'vitest';
import { rehearsed, slowEncoder } from '../../../tests/support/made-up-rehearsal';
import { framesFor, LOST, traceOf } from '../../../tests/support/made-up-trace';
import type { EncoderSpeed } from '../encoding/encoder-speed';
import { PRACTICE_RIG, type Rig } from '../rig/rig';
import { differences } from '../rig/rig-choices';
import { nextStep } from './next-step';

const speed = (codec: EncoderSpeed['codec'], textHint: boolean, framesPerSecond: number): EncoderSpeed => ({
  ...{
    codec,
    textHint,
    framesPerSecond,
    kbps: 500,
    hardware: false,
    quantizer: true,
    constantOverAverage: null,
  },
});
const noCamera: Rig = { ...PRACTICE_RIG, camera: null };

describe('the next step', () => {
  it('is none where nothing is wrong', () => {
    expect(nextStep({ now: rehearsed(), earlier: [], speeds: [] })).toBeNull();
  });

  it('changes one choice of the rig, whatever is too slow', () => {
    const writes = Array.from({ length: 40 }, (_, n) => ({ atUs: 2e6 + n * 2e5, ms: 150, bytes: 9000 }));
    const traces = [
      slowEncoder(45),
      slowEncoder(200),
      traceOf({
        frames: framesFor(10, 30, (tS, n) => (tS > 3 && n % 2 === 0 ? { ...LOST, fate: 'missed' } : {})),
      }),
      traceOf({
        frames: framesFor(10, 30, (tS, n) => (tS > 3 && n % 2 === 0 ? { ...LOST, fate: 'dropped' } : {})),
        writes,
      }),
    ];
    for (const trace of traces)
      for (const rig of [PRACTICE_RIG, noCamera]) {
        const step = nextStep({ now: rehearsed({ trace, rig }), earlier: [], speeds: [] });
        expect(step?.rig).toBeTruthy();
        // A level belongs to its codec, a fit to its size: they are one choice to whoever makes it.
        const changed = step?.rig ? differences(rig, step.rig).map(({ path }) => path) : [];
        const choices = new Set(
          changed.filter((path) => !['picture.level', 'picture.profile', 'picture.fit'].includes(path)),
        );
        expect(choices.size, `${step?.title}`).toBe(1);
        expect(step?.effect).toMatch(/\d+ ms|not been measured/);
      }
  });

  it('takes what costs nothing that is seen first: the codec that was measured to be quick enough', () => {
    const speeds = [speed('h264', false, 24), speed('vp9', false, 80)];
    const step = nextStep({ now: rehearsed({ trace: slowEncoder(42), rig: noCamera }), earlier: [], speeds });
    expect(step).toMatchObject({ id: 'codec-vp9', factor: 24 / 80, measured: false });
    expect(step?.effect).toBe('A busy frame should take about 13 ms.');
  });

  it('names programs that use the processor before anything that the viewer would see', () => {
    const load = {
      cpu: 0.9,
      memory: 0.5,
      disk: null,
      programs: [
        { name: 'planner', cores: 1.2 },
        { name: 'chromium', cores: 0.6 },
      ],
    };
    const now = rehearsed({ trace: slowEncoder(45), load: { before: load, during: load } });
    expect(nextStep({ now, earlier: [], speeds: [] })).toMatchObject({
      title: 'Close planner (1.2 cores)',
      rig: null,
    });
  });

  it('makes no figure of what nobody has measured', () => {
    const scaled: Rig = { ...noCamera, picture: { ...noCamera.picture, filter: 'lanczos' } };
    const frames = framesFor(10, 30, (tS, n) =>
      tS > 3 && n % 2 === 0 ? { ...LOST, fate: 'dropped' } : { composeMs: tS > 3 ? 60 : 2 },
    );
    const now = rehearsed({ trace: traceOf({ frames }), rig: scaled });
    expect(now.diagnosis.faults[0]?.stage).toBe('composition');
    expect(nextStep({ now, earlier: [], speeds: [] })).toMatchObject({
      id: 'filter',
      effect: 'The gain has not been measured here; the next rehearsal will show it.',
    });
  });

  it('turns the preview off where that is rehearsed to be enough, and proposes a region of a whole display', () => {
    const display: Rig = {
      ...noCamera,
      picture: {
        ...noCamera.picture,
        ...{ source: { from: 'screen', meant: 'display' }, preview: 'off' },
        frameRate: { num: 10, den: 1 },
      },
    };
    const now = rehearsed({ trace: slowEncoder(50), rig: display });
    const step = nextStep({ now, earlier: [], speeds: [] });
    expect(step).toMatchObject({ id: 'region', rig: null });

    const slow = rehearsed({ trace: slowEncoder(45), rig: noCamera }, 2);
    const off = { ...noCamera, picture: { ...noCamera.picture, preview: 'off' as const } };
    const quick = traceOf({ frames: framesFor(10, 30, () => ({ encodeMs: 12 })) });
    const earlier = [rehearsed({ trace: quick, rig: off }, 1)];
    expect(nextStep({ now: slow, earlier, speeds: [] })).toMatchObject({ id: 'preview', measured: true });
  });

  describe('where nothing is lost, but the program that is shown is slowed', () => {
    const slowed = (duringMs: number, rig = noCamera, number = 2) =>
      rehearsed({ rig, yardstick: { beforeMs: 10, duringMs } }, number);

    it('is the one that gives most of the machine back', () => {
      const speeds = [speed('h264', false, 60), speed('vp9', false, 240)];
      const step = nextStep({ now: slowed(16), earlier: [], speeds });
      expect(step).toMatchObject({ id: 'codec-vp9', measured: false });
      expect(step?.effect).toBe('Encoding should use about 75 % less processor time.');
      expect(nextStep({ now: slowed(10.5), earlier: [], speeds })).toBeNull();
    });

    it('is not one that took as much when it was rehearsed', () => {
      const speeds = [speed('h264', false, 60), speed('vp9', false, 240)];
      const first = nextStep({ now: slowed(16), earlier: [], speeds });
      if (!first?.rig) throw new Error('There is a step.');
      const useless = slowed(17, first.rig, 1);
      expect(nextStep({ now: slowed(16), earlier: [useless], speeds })?.id).not.toBe('codec-vp9');
      const helped = slowed(12, first.rig, 1);
      expect(nextStep({ now: slowed(16), earlier: [helped], speeds })?.effect).toBe(
        'In an earlier rehearsal, your program slowed down 56 % less.',
      );
    });
  });

  it('counts a frame rate that was rehearsed by its budget: a frame takes as long, and has more time', () => {
    const now = rehearsed({ trace: slowEncoder(45), rig: noCamera }, 2);
    const slower = { ...noCamera, picture: { ...noCamera.picture, frameRate: { num: 15, den: 1 } } };
    const trace = traceOf({ targetFps: 15, frames: framesFor(10, 15, () => ({ encodeMs: 45 })) });
    const step = nextStep({ now, earlier: [rehearsed({ rig: slower, trace }, 1)], speeds: [] });
    expect(step).toMatchObject({ id: 'frame-rate', measured: true, factor: 0.5 });
    expect(step?.effect).toBe('Each frame then has 67 ms instead of 33 ms.');
  });

  it('counts a step that was rehearsed with what it did, and proposes none again that did not help', () => {
    const speeds = [speed('h264', false, 24), speed('vp9', false, 80)];
    const now = rehearsed({ trace: slowEncoder(60), rig: noCamera }, 3);
    const first = nextStep({ now, earlier: [], speeds });
    if (!first?.rig) throw new Error('There is a step.');
    const useless = rehearsed({ trace: slowEncoder(60), rig: first.rig }, 2);
    expect(nextStep({ now, earlier: [useless], speeds })?.id).not.toBe(first.id);
    const helped = rehearsed(
      { trace: traceOf({ frames: framesFor(10, 30, () => ({ encodeMs: 12 })) }), rig: first.rig },
      2,
    );
    const again = nextStep({ now, earlier: [helped], speeds });
    expect(again).toMatchObject({ id: first.id, measured: true });
    expect(again?.factor).toBeCloseTo(12.5 / 60.5, 2);
  });
});
