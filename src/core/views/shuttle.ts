/** Speeds of playing: negative backwards, 0 stopped, 1 as recorded. */
export const FASTEST_SHUTTLE = 8;

/**
 * The speed of playing after J, K or L, as editors shuttle: L plays, J plays backwards, each again doubles up to
 * 8×, each against the other's direction turns round at 1×, K stops.
 * It names nothing outside itself: the page of a link carries its source.
 * @param speed the speed now
 */
export function shuttled(speed: number, key: 'j' | 'k' | 'l'): number {
  if (key === 'k') return 0;
  const way = key === 'l' ? 1 : -1;
  return speed * way >= 1 ? way * Math.min(8, speed * way * 2) : way;
}
