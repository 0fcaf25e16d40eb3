/** Ticks for a page: timers of a page in the background come a second or a minute late, those of its workers do not. */
// It imports nothing of the module that starts it: that would be a worker within a worker without end to whoever bundles them.
const TICK_MS = 100;

setInterval(() => postMessage(null), TICK_MS);
