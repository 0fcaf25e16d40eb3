/**
 * What a track goes on with when that which encodes or writes it has failed.
 * - `same`: another encoder of the same kind; most of what kills one does not kill the next.
 * - `software`: without the graphics processor and without a level that may be too low.
 * - `other-codec`: another of the codecs that the rig leaves open.
 * - `end`: nothing. The track ends here and the take goes on without it.
 */
export type Replacement = 'same' | 'software' | 'other-codec' | 'end';

/** Failures within so much time belong together; later ones are new bad luck. */
const TOGETHER_US = 10_000_000;

/**
 * The next thing to try, ever further from what the rig asked for.
 * @param failuresUs instants at which this track failed, ascending; the present one is the last
 * @param hasOther whether the rig leaves another codec open
 */
export function afterFailure(failuresUs: readonly number[], hasOther: boolean): Replacement {
  const nowUs = failuresUs.at(-1) ?? 0;
  const recent = failuresUs.filter((us) => us > nowUs - TOGETHER_US).length;
  const ways: readonly Replacement[] = ['same', 'software', ...(hasOther ? (['other-codec'] as const) : [])];
  return ways[recent - 1] ?? 'end';
}
