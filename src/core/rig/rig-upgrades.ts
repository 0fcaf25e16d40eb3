/** One step from a version of the rig's document to the next. Steps are never changed once they have landed. */
type Document = Record<string, unknown> & { version?: unknown };
type Step = (old: Document) => Document;

const object = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? { ...value } : {};

/** Version 2 has every choice there is; version 1 had those of a first recording. */
const toTwo: Step = (old) => {
  const { keyframeEveryS, ...picture } = object(old.picture);
  return {
    purpose: null,
    names: { pattern: '{lesson}, {take}' },
    stores: { working: 'browser', final: 'studio' },
    plannedLengthS: null,
    limits: { lengthS: null },
    afterStop: 'open-take',
    keys: { record: 'r', stop: 's', pause: 'p', mark: 'm', mute: 'v' },
    ...old,
    version: 2,
    picture: {
      aim: 'whole',
      fit: 'within',
      filter: 'browser',
      pointer: 'as-captured',
      preview: 'on',
      speed: { num: 1, den: 1 },
      profile: 'automatic',
      level: null,
      rateControl: 'average',
      quantizer: 30,
      whenBehind: 'frames',
      hardware: 'automatic',
      ...picture,
      keyframeEvery: { unit: 'seconds', value: keyframeEveryS ?? 2 },
    },
  };
};

/** Version 3 has no keys: they belong to whoever sits at a keyboard, not to what is recorded. */
const toThree: Step = ({ keys: _, ...old }) => ({ ...old, version: 3 });

/** By the version that each step begins with. */
const STEPS: Readonly<Record<number, Step>> = { 1: toTwo, 2: toThree };

/**
 * Brings a rig's document of an older version to the present one, step by step. What is no such document is given back as it
 * is: whoever parses it says what is wrong with it.
 */
export function upgradeRig(document: unknown): unknown {
  let now = document;
  for (;;) {
    if (typeof now !== 'object' || now === null) return now;
    const { version } = now as Document;
    const step = typeof version === 'number' ? STEPS[version] : undefined;
    if (!step) return now;
    now = step(now as Document);
  }
}
