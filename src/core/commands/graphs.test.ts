import fc from 'fast-check';
import { expect, it } from 'vitest';
import { envelopes, opening, shot, size } from '../../../tests/support/made-up';
import { CONTAINERS, Format, isSoundOnly } from '../codec/formats';
import type { PlainInput } from '../deliver/plain-input';
import type { SoundPiece } from '../deliver/sound-piece';
import { PRACTICE_RIG } from '../rig/rig';
import { formatArgs } from './make-format';
import { pictureGraph } from './picture-graph';
import { planPlainVideo } from './plain-video';
import { soundPieceArgs } from './sound-graph';

/** Labels of inputs are given by ffmpeg: `0:v`, `3:a`. */
const INPUT = /^(\d+):[av]$/;

/**
 * Follows the labels of a filter graph: each is made once, before it is used, and used once; inputs are among those that were opened.
 * @returns what is left over for the output
 */
function leftOver(chains: readonly string[], inputs: number): string[] {
  const free = new Set<string>();
  const made = new Set<string>();
  for (const chain of chains) {
    const [, before = '', after = ''] = /^((?:\[[^\]]+\])*).*?((?:\[[^\]]+\])*)$/.exec(chain) ?? [];
    for (const [, label = ''] of before.matchAll(/\[([^\]]+)\]/g)) {
      const input = INPUT.exec(label);
      if (input) expect(Number(input[1]), chain).toBeLessThan(inputs);
      else expect(free.delete(label), `${label} in ${chain}`).toBe(true);
    }
    for (const [, label = ''] of after.matchAll(/\[([^\]]+)\]/g)) {
      expect(made.has(label), `${label} is made twice`).toBe(false);
      made.add(label);
      free.add(label);
    }
  }
  return [...free];
}

const opened = (args: readonly string[]) => args.filter((arg) => arg === '-i').length;

it('a composed picture uses every label once, after it was made, and opens every input it counts', () => {
  fc.assert(
    fc.property(shot, fc.option(opening), size, (shot, opening, size) => {
      const graph = pictureGraph(shot, opening, size, '/scratch/part');
      expect(opened(graph.inputs.args)).toBe(graph.inputs.opened);
      expect(leftOver(graph.chains, graph.inputs.opened)).toEqual(['picture']);
      // Whatever small file a graph reads is written before.
      const text = [...graph.inputs.args, ...graph.chains].join(' ');
      const read = [...text.matchAll(/\/scratch\/part\.[a-z.]+/g)].map(([path]) => path);
      expect(new Set(read)).toEqual(new Set(graph.files.map(({ path }) => path)));
    }),
    // A cube of a chroma key is a megabyte of text.
    { numRuns: 60 },
  );
});

const video = (width: number, height: number) => ({
  ...{ type: 'video' as const, codec: 'avc1.640028', width, height },
  ...{ bitrateKbps: 2000, textHint: false, sourceWidth: width, sourceHeight: height },
});
const audio = (channels: number) => ({
  ...{ type: 'audio' as const, codec: 'opus', sampleRate: 48_000, channels, bitrateKbps: 96 },
});
const segment = (track: PlainInput['track'], configuration: PlainInput['configuration']) =>
  fc
    .record({ startUs: fc.integer({ min: 0, max: 5_000_000 }), encoderDelayUs: fc.constantFrom(0, 6500) })
    .map(
      (times): PlainInput => ({
        ...{ track, configuration, path: `/takes/${track}`, timesUs: [1000, 34_000] },
        ...times,
      }),
    );
const segments = fc
  .tuple(
    fc.array(segment('screen', video(320, 180)), { maxLength: 2 }),
    fc.array(segment('camera', video(160, 120)), { maxLength: 2 }),
    fc.array(segment('voice', audio(1)), { maxLength: 2 }),
    fc.array(segment('app-sound', audio(2)), { maxLength: 2 }),
  )
  .map((tracks): PlainInput[] => tracks.flat());
const rig = fc.constantFrom(PRACTICE_RIG, { ...PRACTICE_RIG, camera: null });
const given = (args: readonly string[], name: string) => args[args.indexOf(name) + 1] ?? '';
const mapped = (args: readonly string[]) => args.flatMap((arg, i) => (args[i - 1] === '-map' ? [arg] : []));

it('the plain video maps what its graph leaves over, and copies a picture that needs nothing', () => {
  fc.assert(
    fc.property(segments, rig, fc.integer({ min: 1, max: 20_000_000 }), (inputs, rig, durationUs) => {
      const plan = planPlainVideo(inputs, rig, durationUs, '/scratch/plain');
      const has = (track: string) => inputs.some((input) => input.track === track);
      expect(plan !== null).toBe(has('screen') || has('voice') || has('app-sound'));
      if (!plan) return;
      const chains = plan.args.includes('-filter_complex')
        ? given(plan.args, '-filter_complex').split(';')
        : [];
      const outputs = mapped(plan.args);
      expect(leftOver(chains, opened(plan.args)).map((label) => `[${label}]`)).toEqual(
        outputs.filter((output) => output.startsWith('[')),
      );
      expect(outputs.some((output) => output === '0:v' || output === '[picture]')).toBe(has('screen'));
      expect(outputs.includes('[mix]')).toBe(has('voice') || has('app-sound'));
      const composed = rig.camera !== null && has('camera');
      if (plan.pictureCopied) expect(composed).toBe(false);
    }),
  );
});

it('every format maps what it holds, and nothing else', () => {
  fc.assert(
    fc.property(segments, rig, fc.constantFrom(...Format.options), (inputs, rig, format) => {
      const args = formatArgs(format, inputs, rig, 1_000_000, '/takes/plain.mp4');
      const outputs = mapped(args);
      if (isSoundOnly(format))
        expect(outputs.every((output) => output === '[mix]' || output === '0:a')).toBe(true);
      if (format === 'mov' || format === 'm4a') {
        expect(given(args, '-c')).toBe('copy');
        return;
      }
      const chains = args.includes('-filter_complex') ? given(args, '-filter_complex').split(';') : [];
      expect(leftOver(chains, opened(args))).toEqual(outputs.includes('[mix]') ? ['mix'] : []);
      if (outputs.includes('[mix]'))
        expect(CONTAINERS[format].rates.map(String)).toContain(given(args, '-ar'));
    }),
  );
});

it('the sound of a piece mixes each of its inputs once', () => {
  const input = fc.record({
    track: fc.constantFrom('voice' as const, 'app-sound' as const),
    path: fc.constant('/takes/sound'),
    startUs: fc.integer({ min: 0, max: 9_000_000 }),
    endUs: fc.constant(10_000_000),
    encoderDelayUs: fc.constantFrom(0, 6500),
    channels: fc.constantFrom(1, 2),
  });
  const piece: fc.Arbitrary<SoundPiece> = fc.record({
    inputs: fc.array(input, { maxLength: 4 }),
    gains: fc.constant({ voiceDb: 3, appSoundDb: -6 }),
    envelopes: fc.record({ voice: envelopes(9_000_000), appSound: envelopes(9_000_000) }),
    originUs: fc.integer({ min: 0, max: 9_000_000 }),
    speed: fc.constantFrom(0.25, 0.75, 1, 2),
    samples: fc.integer({ min: 1, max: 480_000 }),
    fade: fc.record({ in: fc.boolean(), out: fc.boolean() }),
  });
  fc.assert(
    fc.property(piece, fc.constantFrom(1 as const, 2 as const), (piece, channels) => {
      const args = soundPieceArgs(piece, channels);
      expect(args === null).toBe(piece.inputs.length === 0);
      if (!args) return;
      const graph = given(args, '-filter_complex');
      expect(opened(args)).toBe(piece.inputs.length);
      expect(leftOver(graph.split(';'), piece.inputs.length)).toEqual(['mix']);
      expect(graph.includes('afade=t=in')).toBe(piece.fade.in);
      expect(graph.includes('afade=t=out')).toBe(piece.fade.out);
      expect(graph).toContain(`amix=inputs=${piece.inputs.length}`);
    }),
  );
});
