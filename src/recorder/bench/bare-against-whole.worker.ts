/**
 * The whole pipeline (pace, encode, mux, journal) against a bare encoder loop on the same pictures: time a picture, in one
 * run. Both are fed as fast as the encoder takes.
 */
import { newTakeId } from '@/core/base/ids';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { newStage, show } from '@/practice/stage';
import { cardItems } from '@/practice/test-card';
import { removeTake, takeFolder } from '../journal';
import { newRecording } from '../worker/recording';
import { declaredClock } from '../worker/source-clock';
import { chooseVideo } from '../worker/video-config';
import { openVideoTrack } from '../worker/video-track';

type Order = { width: number; height: number; frames: number; rounds: number; textHint: 'on' | 'off' };
type Answer = { bareMs: number[]; wholeMs: number[] };

/** Pictures of the test card, made beforehand: drawing them is not part of either time. */
function pictures({ width, height, frames }: Order): VideoFrame[] {
  const stage = newStage(width, height);
  return Array.from({ length: frames }, (_, n) => {
    show(stage, cardItems((n * 1000) / 30, { width, height }));
    return new VideoFrame(stage.picture.data, {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp: Math.round((n * 1e6) / 30),
    });
  });
}

const wishOf = ({ width, height, textHint }: Order) => {
  const { source: _, ...settings } = PRACTICE_RIG.picture;
  return { ...settings, codec: 'h264' as const, textHint, box: { width, height } };
};

async function bare(order: Order, film: VideoFrame[]): Promise<number> {
  const { encoder: config } = await chooseVideo('screen', order, wishOf(order));
  let freed: () => void = () => undefined;
  const encoder = new VideoEncoder({ output: () => freed(), error: reportError });
  encoder.configure(config);
  const began = performance.now();
  for (const [n, picture] of film.entries()) {
    while (encoder.encodeQueueSize >= 2)
      await new Promise<void>((resolve) => {
        freed = resolve;
      });
    encoder.encode(picture, { keyFrame: n % 60 === 0 });
  }
  await encoder.flush();
  const took = (performance.now() - began) / film.length;
  encoder.close();
  return took;
}

async function whole(order: Order, film: VideoFrame[]): Promise<number> {
  const takeId = newTakeId();
  const folder = await takeFolder(takeId, true);
  const recording = newRecording(0, { folder, log: () => undefined, onFull: reportError });
  let next = 0;
  let begin: () => void = () => undefined;
  const begun = new Promise<void>((resolve) => {
    begin = resolve;
  });
  const readable = new ReadableStream<VideoFrame>(
    {
      async pull(controller) {
        // The next picture comes when the encoder has been given the last one: a faster source would only be thinned out.
        if (next === 1) await begun;
        while (track.figures().encoded < next) await new Promise((done) => self.setTimeout(done, 0));
        const picture = film[next++];
        if (picture) controller.enqueue(picture.clone());
        else controller.close();
      },
    },
    { highWaterMark: 0 },
  );
  let ended: () => void;
  const over = new Promise<void>((resolve) => {
    ended = resolve;
  });
  const track = openVideoTrack({
    role: 'screen',
    readable,
    settings: wishOf(order),
    clock: declaredClock(),
    sequenced: false,
    captured: false,
    pointer: () => null,
    onRegion: () => undefined,
    // The video's own time: frames come faster than in real time, and each differs.
    nowUs: () => (next * 1e6) / 30,
    onPicture: () => undefined,
    onRecovery: ({ fault }) => reportError(fault.error),
    onEnded: () => ended(),
    onProblem: reportError,
  });
  // As in the studio, where sources are watched before a take: the encoder is chosen when the first instant comes.
  while (track.figures().textHint === null) await new Promise((done) => self.setTimeout(done, 1));
  const began = performance.now();
  track.start(recording);
  begin();
  await over;
  await track.stop(Math.round((film.length * 1e6) / 30));
  const took = (performance.now() - began) / film.length;
  const { encoded } = track.figures();
  track.release();
  await removeTake(takeId);
  if (encoded < film.length * 0.98)
    throw new Error(`Only ${encoded} of ${film.length} pictures were encoded: the times cannot be compared.`);
  return took;
}

async function compare(data: Order): Promise<void> {
  const film = pictures(data);
  const answer: Answer = { bareMs: [], wholeMs: [] };
  // One of each to warm up, then in turns, so that a busy moment of the machine meets both.
  await bare(data, film);
  await whole(data, film);
  for (let round = 0; round < data.rounds; round++) {
    answer.bareMs.push(await bare(data, film));
    answer.wholeMs.push(await whole(data, film));
  }
  for (const picture of film) picture.close();
  postMessage(answer);
}

self.onmessage = ({ data }: MessageEvent<Order>) => {
  compare(data).catch((error) => postMessage({ error: String(error) }));
};
