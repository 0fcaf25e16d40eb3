import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type PairingFacts, pairingSentence, pairingState } from './pairing';

const none: PairingFacts = { database: null, media: null, listedTakes: 0, takeFolders: 0, sharedTakes: 0 };
const at = (id: string, sweeps: number) => ({ id, sweeps });

test('a new studio, and one from a release that did not pair, may be paired', () => {
  expect(pairingState(none)).toBe('unpaired');
  expect(pairingState({ ...none, listedTakes: 3, takeFolders: 4, sharedTakes: 3 })).toBe('unpaired');
});

test('an empty database beside recordings is another instance, whatever marks are missing', () => {
  expect(pairingState({ ...none, takeFolders: 2 })).toBe('other-instance');
  expect(pairingState({ ...none, database: at('a', 0), takeFolders: 2 })).toBe('other-instance');
  expect(pairingState({ ...none, media: at('a', 9), takeFolders: 2 })).toBe('other-instance');
  expect(pairingState({ ...none, database: at('a', 1), media: at('b', 1), takeFolders: 1 })).toBe(
    'other-instance',
  );
});

test('an empty folder beside a database that lists takes is a disk that is not mounted', () => {
  expect(pairingState({ ...none, database: at('a', 4), listedTakes: 2 })).toBe('media-missing');
});

test('the same count, or a database one ahead, is the same instance; every other distance is not', () => {
  fc.assert(
    fc.property(fc.nat(50), fc.nat(50), (database, media) => {
      const state = pairingState({ ...none, database: at('a', database), media: at('a', media) });
      const ahead = database - media;
      expect(state).toBe(ahead < 0 ? 'database-older' : ahead <= 1 ? 'same' : 'media-older');
    }),
  );
});

test('takes that are unknown on one side never lead to a state that allows a sweep, unless some are shared or the marks agree', () => {
  const mark = fc.option(fc.record({ id: fc.constantFrom('a', 'b'), sweeps: fc.nat(5) }), { nil: null });
  fc.assert(
    fc.property(mark, mark, fc.nat(5), fc.nat(5), (database, media, listedTakes, takeFolders) => {
      const state = pairingState({ database, media, listedTakes, takeFolders, sharedTakes: 0 });
      if (database && media) return;
      expect(pairingSentence(state) === null).toBe(listedTakes === 0 && takeFolders === 0);
    }),
  );
});
