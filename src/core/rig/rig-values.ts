import type { Rig } from './rig';

type At<T, P extends string> = P extends `${infer Key}.${infer Rest}`
  ? Key extends keyof NonNullable<T>
    ? At<NonNullable<T>[Key], Rest>
    : never
  : P extends keyof NonNullable<T>
    ? NonNullable<T>[P]
    : never;
/** What a rig has at a path: `ValueAt<'picture.codec'>`. Within something that may be null, what is there otherwise. */
export type ValueAt<P extends string> = At<Rig, P>;

/** The value of a rig at a path. Nothing lies within what is null. */
export const valueAt = <P extends string>(rig: Rig, path: P): ValueAt<P> =>
  path
    .split('.')
    .reduce<unknown>((value, key) => (value as Record<string, unknown> | null)?.[key], rig) as ValueAt<P>;

/** A rig with another value at a path; everything else is the same object as before. */
export function withValue<P extends string>(rig: Rig, path: P, value: ValueAt<P>): Rig {
  const set = (part: unknown, [key, ...rest]: string[]): unknown =>
    key === undefined
      ? value
      : { ...(part as object), [key]: set((part as Record<string, unknown>)[key], rest) };
  return set(rig, path.split('.')) as Rig;
}
