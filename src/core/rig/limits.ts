import { lengthText } from '../base/length';
import type { Rig } from './rig';

/** How a take will end with nobody there; undefined when only somebody ends it. */
export const limitNote = ({ lengthS }: Rig['limits']): string | undefined =>
  lengthS === null ? undefined : `The take ends automatically after ${lengthText(lengthS)}.`;
