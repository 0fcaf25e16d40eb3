import { ARRANGED, Arrangement, arranged, PROGRAMS } from './desk/arrangement';

const KEY = 'practice-windows';

/** Where the windows of the practice displays were left in this browser. */
export function keptArrangement(): Arrangement {
  try {
    const kept = Arrangement.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
    for (const program of PROGRAMS) kept[program] = arranged(program, kept[program]);
    return kept;
  } catch {
    // None yet, or of another version: it is only practice.
    return ARRANGED;
  }
}

export const keepArrangement = (arrangement: Arrangement): void =>
  localStorage.setItem(KEY, JSON.stringify(arrangement));
