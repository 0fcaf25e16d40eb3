/** Stands for the program that is shown: a short burst of work every quarter second, which the system runs when it gets to it. */

const EVERY_MS = 250;
/** About 8 ms on a slow machine: long enough to be interrupted, short enough to slow nothing down. */
const ROUNDS = 1_500_000;

function work(): number {
  let hash = 0x811c9dc5;
  for (let n = 0; n < ROUNDS; n++) hash = Math.imul(hash ^ n, 0x01000193);
  return hash;
}

// The first runs are slower, until they are compiled.
for (let n = 0; n < 3; n++) work();

setInterval(() => {
  const began = performance.now();
  work();
  postMessage(performance.now() - began);
}, EVERY_MS);
