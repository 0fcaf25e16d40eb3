import { readdirSync } from 'node:fs';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CASES, open, READY, RIG, screen, source, speed } from '../../../tests/support/finding-cases';
import { roomFor } from '../base/free-space';
import { propose } from '../rig/purposes';
import { PRACTICE_RIG, PurposeKind, type Rig } from '../rig/rig';
import { FINDERS } from './finders';
import type { Facts } from './finding';
import { factsAfter, mostSevere, preflight } from './preflight';

it('says that a rig is ready when nothing is to be said', () => {
  expect(preflight(RIG, READY)).toEqual([]);
  expect(mostSevere(preflight(RIG, READY))).toBe('good');
});

it.each(Object.entries(CASES))(
  'finds %s, and its click takes it away',
  (name, [rig, facts, weight, says, fixes]) => {
    const own = [FINDERS.find((find) => find.name === name)?.(rig, facts) ?? []].flat();
    expect(own[0]?.sentence).toMatch(says);
    const found = preflight(rig, facts);
    const finding = found.find(({ sentence }) => says.test(sentence));
    expect(finding?.weight).toBe(weight);
    expect(finding?.fix !== undefined).toBe(fixes);
    const fixed = finding?.fix?.(rig);
    if (finding && fixed)
      expect(preflight(fixed, factsAfter(rig, fixed, facts)).map(({ sentence }) => sentence)).not.toContain(
        finding.sentence,
      );
  },
);

const SUPPORT = ['finding', 'finders', 'preflight', 'held-findings'];
const named = (file: string) => file.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

it('asks the finder of every file, and each of them has a case', () => {
  const files = readdirSync(import.meta.dirname)
    .filter((file) => !file.endsWith('.test.ts'))
    .map((file) => file.replace('.ts', ''))
    .filter((file) => !SUPPORT.includes(file));
  const names = FINDERS.map(({ name }) => name).sort();
  expect(names).toEqual(files.map(named).sort());
  expect(Object.keys(CASES).sort()).toEqual(names);
});

it('tells what is more severe first', () => {
  const weights = FINDERS.map(({ name }) => ['stop', 'warn', 'note'].indexOf(CASES[name]?.[2] ?? 'stop'));
  // What warns and stops both stands where it stops.
  expect([...weights].sort()).toEqual(weights);
});

const rigs = fc
  .record({
    kind: fc.constantFrom(...PurposeKind.options),
    machine: fc.constantFrom('strong' as const, 'weak' as const),
    from: fc.constantFrom(RIG, PRACTICE_RIG, screen('display'), screen('window')),
    box: fc.option(
      fc.record({ width: fc.integer({ min: 16, max: 7680 }), height: fc.integer({ min: 16, max: 4320 }) }),
    ),
    fps: fc.integer({ min: 1, max: 240 }),
    level: fc.option(fc.constantFrom('2.0', '3.1', '4.2', '9.9')),
    bitrateKbps: fc.option(fc.integer({ min: 100, max: 200_000 })),
    plannedLengthS: fc.option(fc.integer({ min: 1, max: 86_400 })),
    codec: fc.constantFrom('automatic' as const, 'h264' as const, 'av1' as const),
  })
  .map(({ kind, machine, from, fps, plannedLengthS, ...picture }): Rig => {
    const { rig } = propose({ kind, machine }, from);
    return {
      ...rig,
      plannedLengthS,
      picture: { ...rig.picture, ...picture, frameRate: { num: fps, den: 1 } },
    };
  });
const facts = fc.record({
  size: fc.record({ width: fc.integer({ min: 32, max: 7680 }), height: fc.integer({ min: 32, max: 4320 }) }),
  speeds: fc.array(
    fc.record({
      codec: fc.constantFrom('h264' as const, 'av1' as const),
      fps: fc.integer({ min: 1, max: 300 }),
    }),
    { maxLength: 2 },
  ),
  breaks: fc.option(fc.integer({ min: 100, max: 100_000 })),
  free: fc.option(fc.integer({ min: 0, max: 20_000_000_000 })),
  silentDb: fc.option(fc.integer({ min: -120, max: 0 })),
});

it('offers only fixes that take their finding away and bring none that is more severe, whatever the rig', () => {
  fc.assert(
    fc.property(rigs, facts, (rig, { size, speeds, breaks, free, silentDb }) => {
      const known: Facts = {
        ...READY,
        sources: {
          screen: { ...open, size },
          voice: { ...open, loudestDb: silentDb ?? undefined },
          camera: { ...open, measuredFps: { fps: 10, asked: source } },
        },
        speeds: speeds.map(({ codec, fps }) => speed(codec, fps)),
        marks: breaks === null ? null : { legibilityKbps: breaks, saturationKbps: breaks * 2, trials: [] },
        room: { browser: free === null ? null : roomFor(free, 1e6), server: null },
        permissions: { camera: false, microphone: false },
      };
      const rank = { stop: 0, warn: 1, note: 2 };
      const before = preflight(rig, known);
      for (const finding of before) {
        if (!finding.fix) continue;
        const after = preflight(finding.fix(rig), known);
        expect(after.map(({ sentence }) => sentence)).not.toContain(finding.sentence);
        for (const { weight, sentence } of after)
          if (!before.some((old) => old.sentence === sentence))
            expect(rank[weight]).toBeGreaterThanOrEqual(rank[finding.weight]);
      }
    }),
  );
});
