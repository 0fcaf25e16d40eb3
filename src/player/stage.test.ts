import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { TakeId } from '@/core/base/ids';
import { plainCut } from '../../tests/support/made-up';
import type { PlayerTake } from './messages';
import type { Reel } from './reels';
import type { openStage as OpenStage } from './stage';

const IDS = ['a', 'b', 'c'] as TakeId[];
const takes: PlayerTake[] = IDS.map((id) => ({ id, files: [], durationUs: 1e6, rate: { num: 30, den: 1 } }));

let openStage: typeof OpenStage;
beforeAll(async () => {
  // The module that draws loads its kernel when it is imported; nothing is drawn here.
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  ({ openStage } = await import('./stage'));
  vi.unstubAllGlobals();
});

/** A stage whose takes open when they are told to. */
function opened() {
  const closed: TakeId[] = [];
  const opening = new Map<TakeId, { opens: () => void; fails: () => void }>();
  const canvas = { getContext: () => null } as unknown as OffscreenCanvas;
  const cut = plainCut('a' as TakeId, [{ take: 'a' as TakeId, inUs: 0, outUs: 1e6 }]);
  const stage = openStage(
    canvas,
    cut,
    ({ id, rate }) =>
      new Promise<Reel>((done, fail) => {
        opening.set(id, {
          opens: () => done({ take: id, rate, lanes: [], sounds: [], close: () => closed.push(id) }),
          fails: () => fail(new Error(`${id} cannot be read.`)),
        });
      }),
  );
  return { stage, closed, take: (id: string) => opening.get(id as TakeId) };
}

const rest = () => new Promise(setImmediate);

describe('a stage', () => {
  it('has every take open, and closes each once', async () => {
    const { stage, closed, take } = opened();
    const open = stage.open(takes);
    for (const id of IDS) take(id)?.opens();
    await open;
    expect(stage.reels().map((reel) => reel.take)).toEqual(IDS);
    expect(closed).toEqual([]);
    stage.close();
    expect(closed).toEqual(IDS);
    expect(stage.isOpen()).toBe(false);
  });

  it('closes those that were opened, and those that open later, when one cannot be read', async () => {
    const { stage, closed, take } = opened();
    const open = stage.open(takes);
    take('a')?.opens();
    take('b')?.fails();
    await expect(open).rejects.toThrow('b cannot be read.');
    await rest();
    expect(closed).toEqual(['a']);
    take('c')?.opens();
    await rest();
    expect(closed).toEqual(['a', 'c']);
    expect(stage.isOpen()).toBe(false);
  });

  it('closes what opens after it was closed itself', async () => {
    const { stage, closed, take } = opened();
    const open = stage.open(takes);
    stage.close();
    for (const id of IDS) take(id)?.opens();
    await open;
    await rest();
    expect([...closed].sort()).toEqual(IDS);
    expect(stage.isOpen()).toBe(false);
  });
});
