/** What composing camera and screen adds to a picture that is only passed on, in one run: time a picture, in turns. */
import { firstKey } from '@/core/image/colour-key';
import { FIRST_PLACE } from '@/core/rig/rig';
import { presenterItems } from '@/practice/presenter';
import { newStage, type Stage, show } from '@/practice/stage';
import { cardItems } from '@/practice/test-card';
import { openComposer } from '../worker/compose';

type Order = { width: number; height: number; frames: number; rounds: number };

const pictureOf = ({ picture }: Stage, n: number) =>
  new VideoFrame(picture.data, {
    format: 'I420',
    codedWidth: picture.width,
    codedHeight: picture.height,
    timestamp: Math.round((n * 1e6) / 30),
  });

const CAMERA = { width: 640, height: 360 };
const KEY = firstKey('#3fae62');

async function run({ width, height, frames, rounds }: Order) {
  const [screen, camera] = [newStage(width, height), newStage(CAMERA.width, CAMERA.height)];
  const compose = openComposer({ width, height }, CAMERA, { ...FIRST_PLACE, shape: 'circle', key: KEY });
  const times: { passedMs: number[]; composedMs: number[] } = { passedMs: [], composedMs: [] };
  // The first round warms both up.
  for (let round = 0; round <= rounds; round++) {
    let [passed, composed] = [0, 0];
    for (let n = 0; n < frames; n++) {
      show(screen, cardItems((n * 1000) / 30, { width, height }));
      show(camera, presenterItems((n * 1000) / 30, CAMERA, 'green-wall'));
      const [picture, face] = [pictureOf(screen, n), pictureOf(camera, n)];
      let began = performance.now();
      new VideoFrame(picture, { timestamp: picture.timestamp }).close();
      passed += performance.now() - began;
      began = performance.now();
      const whole = await compose(picture, face, picture.timestamp);
      composed += performance.now() - began;
      for (const frame of [picture, face, whole]) frame.close();
    }
    if (round === 0) continue;
    times.passedMs.push(passed / frames);
    times.composedMs.push(composed / frames);
  }
  return times;
}

self.onmessage = async ({ data }: MessageEvent<Order>) => {
  try {
    postMessage(await run(data));
  } catch (error) {
    postMessage({ error: String(error) });
  }
};
