import { pointerAt, SCRIPT_MS, shifted } from '@/practice/script';

type Place = { x: number; y: number };

/** Where the pointer is in what is captured, as far as anybody tells: the practice desk's script, or a tab of the studio. */
export function openPointer(nowUs: () => number) {
  /** When the script began, while it is what is recorded, and where its places lie in what is captured. */
  let script: { cueUs: number; shift: Place } | null = null;
  let told: Place | null = null;
  return {
    at: (): Place | null =>
      script ? shifted(pointerAt(((nowUs() - script.cueUs) / 1000) % SCRIPT_MS), script.shift) : told,
    follow: (next: { cueUs: number; shift: Place }): void => {
      script = next;
    },
    endScript: (): void => {
      script = null;
    },
    told: ({ x, y }: Record<string, unknown>): void => {
      if (typeof x === 'number' && typeof y === 'number') told = { x, y };
    },
    /** Another screen is captured: where the pointer was in the last one says nothing. */
    forget: (): void => {
      told = null;
    },
  };
}
