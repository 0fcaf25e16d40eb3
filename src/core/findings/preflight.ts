import { sameValue } from '../base/same-value';
import type { Rig } from '../rig/rig';
import { FINDERS } from './finders';
import type { Facts, Finding, Weight } from './finding';

export type { Facts, Finding, SourceState, Weight } from './finding';

const ORDER: Record<Weight, number> = { stop: 0, warn: 1, note: 2 };

/**
 * Everything worth saying about a rig with these sources, the most severe first; nothing when it is ready. A fix is offered only
 * where it really takes its finding away and brings none that is more severe.
 */
export function preflight(rig: Rig, facts: Facts): Finding[] {
  const found = findAll(rig, facts);
  return found.map((finding) => {
    const { fix, ...rest } = finding;
    if (!fix) return rest;
    const fixed = fix(rig);
    return helps(finding, found, findAll(fixed, factsAfter(rig, fixed, facts))) ? finding : rest;
  });
}

const findAll = (rig: Rig, facts: Facts): Finding[] =>
  FINDERS.flatMap((find) => find(rig, facts) ?? []).sort((a, b) => ORDER[a.weight] - ORDER[b.weight]);

/** What is known after a rig was fixed: what was found of one source says nothing of another. */
export function factsAfter(rig: Rig, fixed: Rig, facts: Facts): Facts {
  const sources = { ...facts.sources };
  if (sources.screen && !sameValue(rig.picture.source, fixed.picture.source)) {
    const { size: _, shared: __, ...rest } = sources.screen;
    sources.screen = rest;
  }
  if (sources.voice && !sameValue(rig.voice?.source, fixed.voice?.source)) {
    const { heard: _, test: __, gives: ___, loudestDb: ____, ...rest } = sources.voice;
    sources.voice = rest;
  }
  return { ...facts, sources };
}

function helps(fixed: Finding, before: readonly Finding[], after: readonly Finding[]): boolean {
  if (after.some(({ sentence }) => sentence === fixed.sentence)) return false;
  return !after.some(
    ({ weight, sentence }) =>
      ORDER[weight] < ORDER[fixed.weight] && !before.some((old) => old.sentence === sentence),
  );
}

/** What the findings come to: the most severe weight, or that all is well. A note is good to know and keeps nothing from being ready. */
export const mostSevere = (findings: readonly Finding[]): 'good' | 'warn' | 'stop' => {
  const [first] = findings;
  return !first || first.weight === 'note' ? 'good' : first.weight;
};
