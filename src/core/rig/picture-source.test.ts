import { expect, it } from 'vitest';
import { isSoundOnly, withPictureSource } from './picture-source';
import { PURPOSES, propose } from './purposes';
import { PRACTICE_RIG, Rig } from './rig';

it('sound only is the same picture and camera, however it is chosen', () => {
  const bySource = withPictureSource(PRACTICE_RIG, { from: 'none' });
  const byPurpose = propose({ kind: 'sound', machine: 'strong' }, PRACTICE_RIG).rig;
  for (const rig of [bySource, byPurpose]) {
    expect(isSoundOnly(rig)).toBe(true);
    expect(rig.camera).toBeNull();
    expect(rig.voice).not.toBeNull();
    expect(Rig.parse(rig)).toEqual(rig);
  }
  expect(PURPOSES.sound.name).toBe('Sound only');
});

it('any other source keeps the camera and everything else', () => {
  const source = { from: 'screen', meant: 'window' } as const;
  const rig = withPictureSource(PRACTICE_RIG, source);
  expect(rig).toEqual({ ...PRACTICE_RIG, picture: { ...PRACTICE_RIG.picture, source } });
  expect(isSoundOnly(rig)).toBe(false);
});
