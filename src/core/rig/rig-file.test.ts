import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ProblemError } from '../base/problem';
import { propose } from './purposes';
import { PRACTICE_RIG, PurposeKind, Rig } from './rig';
import { RIG_CHOICES } from './rig-choices';
import { readRigFile, rigFileText, rigJsonSchema } from './rig-file';
import { upgradeRig } from './rig-upgrades';
import { withValue } from './rig-values';

const rig = fc
  .record({
    kind: fc.constantFrom(...PurposeKind.options),
    machine: fc.constantFrom('strong' as const, 'weak' as const),
  })
  .map(({ kind, machine }) => propose({ kind, machine }, PRACTICE_RIG).rig);
const name = fc.string({ minLength: 1, maxLength: 100 }).filter((text) => text.trim() !== '');

/** What `readRigFile` says of a text. */
function refusal(text: string): { message: string; field?: string } {
  try {
    readRigFile(text, 'seeds.json');
  } catch (error) {
    if (error instanceof ProblemError) return error.problem;
    throw error;
  }
  return { message: 'accepted' };
}

it('reads back every rig that it wrote', () => {
  fc.assert(
    fc.property(rig, name, (rig, name) => {
      expect(readRigFile(rigFileText(name, rig), 'seeds.json')).toEqual({ name: name.trim(), rig });
    }),
  );
});

it('names the field that is wrong, whichever it is', () => {
  const paths = RIG_CHOICES.map(({ path }) => path).filter((path) => path.startsWith('picture.'));
  fc.assert(
    fc.property(fc.constantFrom(...paths), (path) => {
      const broken = withValue(PRACTICE_RIG, path, { no: 'such value' } as never);
      const { field, message } = refusal(rigFileText('Seeds', broken));
      expect(field?.startsWith(`rig.${path}`), `${path}: ${message}`).toBe(true);
      expect(message).toContain('seeds.json');
    }),
  );
  expect(refusal('{').message).toBe('seeds.json is not JSON.');
  expect(refusal(rigFileText(' ', PRACTICE_RIG)).field).toBe('name');
});

it('upgrades a document of any version once and for all', () => {
  const { version: _, ...rest } = PRACTICE_RIG;
  const { keyframeEvery: __, ...picture } = rest.picture;
  const first = { ...rest, version: 1, picture: { ...picture, keyframeEveryS: 4 } };
  const second = { ...rest, version: 2, keys: { record: 'r' } };
  for (const document of [first, second, PRACTICE_RIG]) {
    const upgraded = upgradeRig(document);
    expect(upgradeRig(upgraded)).toEqual(upgraded);
    expect(Rig.parse(document)).toEqual(Rig.parse(upgraded));
  }
  expect(Rig.parse(first).picture.keyframeEvery).toEqual({ unit: 'seconds', value: 4 });
  fc.assert(
    fc.property(fc.jsonValue(), (anything) => {
      // What is no rig is left for the schema to refuse.
      expect(Rig.safeParse(upgradeRig(anything)).success).toBe(false);
    }),
  );
});

it('describes in its schema what it accepts: every choice of a rig is there', () => {
  const text = JSON.stringify(rigJsonSchema());
  for (const { path } of RIG_CHOICES) expect(text).toContain(`"${path.split('.').at(-1)}"`);
});
