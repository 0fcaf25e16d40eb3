import { expect, it } from 'vitest';
import { PRACTICE_RIG } from '../rig/rig';
import { tracksAsked } from './tracks-asked';

it('asks for what the rig names, no sound at other speeds, and no sound of a screen whose picker may refuse it', () => {
  expect(tracksAsked(PRACTICE_RIG)).toEqual(['screen', 'camera', 'voice', 'app-sound']);
  const slow = { ...PRACTICE_RIG.picture, speed: { num: 1, den: 10 } };
  expect(tracksAsked({ ...PRACTICE_RIG, picture: slow })).toEqual(['screen', 'camera']);
  const shared = { ...PRACTICE_RIG.appSound, source: { from: 'screen' } } as typeof PRACTICE_RIG.appSound;
  const none = { ...PRACTICE_RIG.picture, source: { from: 'none' as const } };
  expect(tracksAsked({ ...PRACTICE_RIG, camera: null, appSound: shared, picture: none })).toEqual(['voice']);
});
