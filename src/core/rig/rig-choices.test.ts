import { expect, it } from 'vitest';
import { z } from 'zod';
import { FIRST_TREATMENT } from '../audio/treatment';
import { newStoreId } from '../base/ids';
import { sameValue } from '../base/same-value';
import { firstKey } from '../image/colour-key';
import { PRACTICE_RIG, type Rig, RigDocument } from './rig';
import { differences, type FieldPath, fieldNames, PART_NAMES, RIG_CHOICES } from './rig-choices';
import { valueAt, withValue } from './rig-values';

/** A rig in which every optional part is there. */
const FULL: Rig = {
  ...PRACTICE_RIG,
  picture: {
    ...PRACTICE_RIG.picture,
    aim: { x: 0, y: 0, width: 640, height: 360 },
    follow: { speed: 600, dead: 0.4 },
    regions: [{ name: 'List', region: { x: 0, y: 0, width: 640, height: 360 } }],
    level: '4.0',
    bitrateKbps: 4000,
  },
  camera: PRACTICE_RIG.camera && {
    ...PRACTICE_RIG.camera,
    source: { from: 'device', id: 'one', label: 'Front camera' },
    place: {
      ...PRACTICE_RIG.camera.place,
      free: { x: 0.1, y: 0.2 },
      border: { width: 0.004, colour: '#fffdf8' },
      key: firstKey('#3fae62'),
    },
  },
  voice: PRACTICE_RIG.voice && {
    ...PRACTICE_RIG.voice,
    source: { from: 'device', id: 'two', label: 'Desk microphone' },
    treatment: { ...FIRST_TREATMENT, denoise: true },
  },
  sound: { ...PRACTICE_RIG.sound, sampleRate: 48_000 },
  stores: { working: 'browser', final: newStoreId() },
  formats: ['mov'],
  plannedLengthS: 600,
  limits: { lengthS: 900 },
  afterStop: 'hand-over',
  handOverTo: 'web-page',
};

/** Not choices: the form of the document, what the choices started from, and ids that only their names show.
    A corner says nothing while the camera is placed freely. */
const NOT_CHOICES = [/^version$/, /^purpose/, /source\.id$/, /^stores\.working$/, /place\.corner$/];

type Json = null | string | number | boolean | Json[] | { [key: string]: Json };

/** Every leaf of a document with its path. */
function leaves(value: Json, path: string[] = []): { path: string[]; value: Json }[] {
  if (Array.isArray(value)) return value.flatMap((each, i) => leaves(each, [...path, String(i)]));
  if (typeof value === 'object' && value !== null)
    return Object.entries(value).flatMap(([key, each]) => leaves(each, [...path, key]));
  return [{ path, value }];
}

/** A document with another value at a path. */
function changed(document: Json, [key, ...rest]: string[], value: Json): Json {
  if (key === undefined) return value;
  if (Array.isArray(document))
    return document.map((each, i) => (String(i) === key ? changed(each, rest, value) : each));
  const part = document as { [key: string]: Json };
  return { ...part, [key]: changed(part[key] ?? null, rest, value) };
}

/** All words that the schema knows, for fields that are one of a few. */
const WORDS = [
  ...new Set(
    JSON.stringify(z.toJSONSchema(RigDocument, { io: 'input', unrepresentable: 'any' })).match(
      /"[a-z0-9-]{1,24}"/g,
    ),
  ),
].map((word) => word.slice(1, -1));

/** Other values that might be allowed in the place of one. */
function others(value: Json): Json[] {
  if (typeof value === 'boolean') return [!value];
  if (typeof value === 'number')
    return [
      value + 2,
      value - 2,
      value + 1,
      value - 1,
      value + 0.01,
      value / 2,
      value * 2,
      48_000,
      24_000,
      2,
    ];
  if (typeof value === 'string')
    return [...WORDS.filter((word) => word !== value), `${value} 2`, '#123456', newStoreId(), 'z', '4.2'];
  return [];
}

it('shows every single field in which two rigs differ, and says both values in different words', () => {
  expect(RigDocument.parse(FULL)).toEqual(FULL);
  const document = JSON.parse(JSON.stringify(FULL)) as Json;
  const unshown: string[] = [];
  let tried = 0;
  for (const { path, value } of leaves(document)) {
    const name = path.join('.');
    if (NOT_CHOICES.some((each) => each.test(name))) continue;
    const other = others(value)
      .map((each) => RigDocument.safeParse(changed(document, path, each)))
      .find(({ success, data }) => success && JSON.stringify(data) !== JSON.stringify(FULL));
    if (!other?.data) {
      unshown.push(`${name}: nothing else is allowed there`);
      continue;
    }
    tried++;
    const shown = differences(FULL, other.data);
    if (shown.length === 0) unshown.push(`${name}: not shown`);
    else if (shown.every(({ words }) => words(FULL) === words(other.data as Rig)))
      unshown.push(`${name}: both read “${shown[0]?.words(FULL)}”`);
  }
  expect(unshown).toEqual([]);
  expect(tried).toBeGreaterThan(60);
});

it('gives every field a name, a value and a way to change it', () => {
  const paths = [...RIG_CHOICES.map(({ path }) => path), ...Object.keys(PART_NAMES)] as FieldPath[];
  for (const path of paths) {
    expect(fieldNames(path).name).toMatch(/^[A-Z]/);
    const value = valueAt(FULL, path);
    expect(value, path).not.toBeUndefined();
    // Setting what is there changes nothing; setting something else changes nothing but that.
    expect(withValue(FULL, path, value as never)).toEqual(FULL);
    const other = withValue(FULL, path, 'another' as never);
    expect(valueAt(other, path)).toBe('another');
    expect(withValue(other, path, value as never)).toEqual(FULL);
    expect(differences(FULL, other).map((choice) => choice.path)).toEqual(
      RIG_CHOICES.map((choice) => choice.path).filter((each) => path === each || path.startsWith(`${each}.`)),
    );
  }
  expect(sameValue({ a: 1, b: null }, { b: null, a: 1 })).toBe(true);
});

it('has nothing within what is not there', () => {
  expect(valueAt({ ...FULL, camera: null }, 'camera.size')).toBeUndefined();
});
