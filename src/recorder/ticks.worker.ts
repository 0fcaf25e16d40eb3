/** Ticks for a page: timers of a page in the background come a second or a minute late, those of its workers do not. */
import { TICK_MS } from './ticks';

setInterval(() => postMessage(null), TICK_MS);
