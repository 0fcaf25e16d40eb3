import { DESK_WINDOW } from './desk';
import type { Box } from './i420';

/** Where the windows of a practice display stand, for whoever aims at one of them; none for a source that has none. */
export const windowsOf = (device: string): readonly Box[] => (device === 'desk' ? [DESK_WINDOW] : []);
