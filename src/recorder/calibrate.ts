import { pairedOffsetUs } from '@/core/recording/clock';
import type { Recorder } from './engine';
import type { MediaRole } from './messages';

const LISTEN_MS = 1200;
/** A picture is read this much after it was captured, at most, when nothing is in its way. */
const LONGEST_DELAY_US = 30_000;

/**
 * Finds the exact offset of a picture source's timestamps: a video element tells when each picture was captured, in the
 * page's clock, and the recorder, which reads the same source, tells their timestamps. Either may leave pictures out, so
 * they are matched by the most frequent difference among those that the earliest arrivals allow.
 * @returns µs to add to the timestamps; undefined when the source moved too little to tell
 */
export async function calibrate(
  recorder: Recorder,
  role: MediaRole,
  track: MediaStreamTrack,
): Promise<number | undefined> {
  const video = document.createElement('video');
  video.muted = true;
  // The track itself, not a clone: stopping a clone that was shown can starve the capture of its frames.
  video.srcObject = new MediaStream([track]);
  const captures: number[] = [];
  const onShown = (_now: number, metadata: VideoFrameCallbackMetadata) => {
    if (metadata.captureTime !== undefined) captures.push(metadata.captureTime * 1000);
    video.requestVideoFrameCallback(onShown);
  };
  video.requestVideoFrameCallback(onShown);
  await video.play().catch(() => undefined);
  await new Promise((done) => setTimeout(done, LISTEN_MS));
  video.srcObject = null;
  const { timestampsUs, earliestOffsetUs } = await recorder.timestamps(role);
  const differences = captures
    .flatMap((capture) => timestampsUs.map((timestamp) => capture - timestamp))
    .filter((offset) => offset <= earliestOffsetUs + 2000 && offset > earliestOffsetUs - LONGEST_DELAY_US);
  return pairedOffsetUs(differences);
}
