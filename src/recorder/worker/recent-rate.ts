const WINDOW_US = 2_000_000;

/** How often something happened a second, over the last two seconds. */
export type RecentRate = {
  readonly count: (nowUs: number) => void;
  readonly perSecond: (nowUs: number) => number;
};

export function openRecentRate(): RecentRate {
  const instants: number[] = [];
  return {
    count: (nowUs) => {
      instants.push(nowUs);
      while ((instants[0] ?? nowUs) < nowUs - WINDOW_US) instants.shift();
    },
    perSecond: (nowUs) => (instants.filter((at) => at > nowUs - WINDOW_US).length * 1e6) / WINDOW_US,
  };
}
