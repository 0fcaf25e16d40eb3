import { expect, it } from 'vitest';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { withValue } from '@/core/rig/rig-values';
import type { MediaRole } from './messages';
import { encodingKey, sourceKey, wantedSource } from './source-keys';

const ROLES: MediaRole[] = ['screen', 'camera', 'voice', 'app-sound'];

it('opens a source again for what it is opened with, and for nothing else', () => {
  const changes: [path: string, value: unknown, opens: MediaRole[]][] = [
    ['picture.source', { from: 'practice', id: 'slides' }, ['screen']],
    ['picture.frameRate', { num: 15, den: 1 }, ['screen']],
    ['picture.bitrateKbps', 900, []],
    ['picture.codec', 'av1', []],
    ['camera.size', { width: 320, height: 240 }, ['camera']],
    ['camera.place.corner', 'top-left', []],
    ['voice.channels', 2, ['voice']],
    ['voice.gainDb', 3, []],
    ['sound.voiceKbps', 128, []],
    ['names.pattern', '{date}', []],
  ];
  for (const [path, value, opens] of changes) {
    const rig = withValue(PRACTICE_RIG, path, value as never);
    const opened = ROLES.filter((role) => sourceKey(rig, role) !== sourceKey(PRACTICE_RIG, role));
    expect(opened, path).toEqual(opens);
  }
});

it('reconnects a source for another encoding, but not for another camera position', () => {
  const connected = (rig: Rig) =>
    ROLES.filter((role) => encodingKey(rig, role) !== encodingKey(PRACTICE_RIG, role));
  expect(connected(withValue(PRACTICE_RIG, 'picture.bitrateKbps', 900))).toEqual(['screen']);
  expect(connected(withValue(PRACTICE_RIG, 'camera.place.corner', 'top-left'))).toEqual([]);
  // What no encoder obeys throws nothing away that was measured: names of regions, where it is watched, the pointer.
  const region = { name: 'Beds', region: { x: 0, y: 0, width: 320, height: 240 } };
  expect(connected(withValue(PRACTICE_RIG, 'picture.regions', [region]))).toEqual([]);
  expect(connected(withValue(PRACTICE_RIG, 'picture.viewer', 'phone'))).toEqual([]);
  expect(connected(withValue(PRACTICE_RIG, 'picture.pointer', 'hidden'))).toEqual([]);
  expect(connected(withValue(PRACTICE_RIG, 'sound.voiceKbps', 128))).toEqual(['voice']);
  expect(connected(withValue(PRACTICE_RIG, 'sound.codec', 'pcm'))).toEqual(['voice', 'app-sound']);
});

it('wants nothing of a camera beside no picture, nor sound at another speed', () => {
  const none = withValue(PRACTICE_RIG, 'picture.source', { from: 'none' });
  expect(ROLES.filter((role) => wantedSource(none, role))).toEqual(['voice', 'app-sound']);
  const lapse = withValue(PRACTICE_RIG, 'picture.speed', { num: 10, den: 1 });
  expect(ROLES.filter((role) => wantedSource(lapse, role))).toEqual(['screen', 'camera']);
  const shared = withValue(PRACTICE_RIG, 'picture.source', { from: 'screen', meant: 'window' });
  // A window that is shared stays shared at another frame rate.
  expect(sourceKey(withValue(shared, 'picture.frameRate', { num: 15, den: 1 }), 'screen')).toBe(
    sourceKey(shared, 'screen'),
  );
  // What was meant is compared with what was shared; meaning another does not end sharing.
  expect(sourceKey(shared, 'screen')).toBe(
    sourceKey(withValue(shared, 'picture.source', { from: 'screen', meant: 'display' }), 'screen'),
  );
});

it('has the same keys for the same rig, and an empty one for what is not wanted', () => {
  const without = { ...PRACTICE_RIG, camera: null, voice: null, appSound: null };
  for (const role of ROLES) {
    expect(sourceKey(structuredClone(PRACTICE_RIG), role)).toBe(sourceKey(PRACTICE_RIG, role));
    expect(sourceKey(without, role) === '').toBe(role !== 'screen');
  }
});
