/** What `scripts/worklets.mjs` puts into the public folder, and the name under which the worklet registers its processor. */
export const TREAT_WORKLET = '/sound/treat.js';
export const RNNOISE_WASM = '/sound/rnnoise.wasm';
export const STRETCH_WORKLET = '/sound/stretch.js';
export const TREAT_PROCESSOR = 'treat';
