import { expect, it } from 'vitest';
import { hostForms, isOwnRequest } from './origin';

it('knows a host without the port that its scheme has anyway, and no other', () => {
  const allowed = new Set(['studio.example:443', 'lan.example:8080', '[::1]:4620'].flatMap(hostForms));
  for (const host of [
    'studio.example',
    'studio.example:443',
    'STUDIO.example',
    'lan.example:8080',
    '[::1]:4620',
  ])
    expect([host, isOwnRequest(host, null, allowed)]).toEqual([host, true]);
  for (const host of ['lan.example', 'studio.example:80', 'studio.example.evil', '', 'studio.example:4620'])
    expect([host, isOwnRequest(host, null, allowed)]).toEqual([host, false]);
  expect(isOwnRequest('studio.example', 'https://studio.example', allowed)).toBe(true);
  expect(isOwnRequest('studio.example', 'https://other.example', allowed)).toBe(false);
  expect(isOwnRequest('studio.example', 'null', allowed)).toBe(false);
});

it('takes a host that is no host as it is written, so that nothing matches it', () => {
  expect(hostForms(' a b ')).toEqual(['a b']);
});
