import { expect, it } from 'vitest';
import { preflight } from './preflight';
import { PRACTICE_RIG } from './rig';
import { roomFor } from './room';

const open = { state: 'open' as const };

it('says what is grave first, and that a rig is ready when nothing is', () => {
  const rig = { ...PRACTICE_RIG, picture: { ...PRACTICE_RIG.picture, box: null } };
  const room = { browser: null, server: null };
  const ready = {
    browser: null,
    room,
    sources: { screen: { ...open, size: { width: 1920, height: 1080 } }, voice: open },
  };
  expect(preflight(rig, ready).map((f) => f.weight)).toEqual(['good']);
  expect(preflight(PRACTICE_RIG, ready)[0]).toMatchObject({ weight: 'warn', about: 'screen' });
  const busy = {
    state: 'failed' as const,
    problem: { code: 'device-busy', message: 'In use.', hint: 'Close it.' },
  };
  const found = preflight(rig, { browser: null, room, sources: { camera: busy, voice: open } });
  expect(found.map((f) => [f.weight, f.about])).toEqual([
    ['stop', 'screen'],
    ['warn', 'camera'],
  ]);
  const fast = { ...rig, picture: { ...rig.picture, frameRate: { num: 240, den: 1 } } };
  expect(
    preflight(fast, { ...ready, sources: { screen: { ...open, size: { width: 7680, height: 4320 } } } })[0]
      ?.weight,
  ).toBe('stop');
  const [short] = preflight(rig, { ...ready, room: { browser: roomFor(200e6, 1e6), server: null } });
  expect(short).toMatchObject({ weight: 'warn', about: 'storage' });
  expect(short?.sentence).toContain('2 min');
  expect(preflight(rig, { ...ready, room: { browser: roomFor(20e6, 1e6), server: null } })[0]?.weight).toBe(
    'stop',
  );
});
