import { useRef, useState } from 'react';

/**
 * Acts that stay the same objects while what they do follows what is there now: what is given them need not be drawn again.
 * @param acts always of the same names
 */
export function useSame<T extends Record<string, (...of: never[]) => unknown>>(acts: T): T {
  const latest = useRef(acts);
  latest.current = acts;
  const [same] = useState(() =>
    Object.fromEntries(
      Object.keys(acts).map((name) => [name, (...of: never[]) => latest.current[name]?.(...of)]),
    ),
  );
  return same as T;
}
