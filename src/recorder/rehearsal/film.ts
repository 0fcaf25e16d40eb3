import { BlobSource, Input, MATROSKA, VideoSampleSink } from 'mediabunny';
import type { RehearsalFilm } from './rehearse';

/** The recorded screen of a rehearsal, frame by frame, as encoded. */
export type OpenFilm = {
  /** The frame that shows this time of the work; null where none does. It is its caller's, who closes it. */
  readonly frameAt: (workUs: number) => Promise<VideoFrame | null>;
  readonly close: () => void;
};

export function openFilm({ parts: files, speed }: RehearsalFilm): OpenFilm {
  const parts = files.map(({ startUs, file }) => {
    const input = new Input({ formats: [MATROSKA], source: new BlobSource(file) });
    const sink = input.getPrimaryVideoTrack().then((track) => track && new VideoSampleSink(track));
    // One that cannot be read has no frames.
    sink.catch(() => null);
    return { startUs, input, sink };
  });
  return {
    frameAt: async (workUs) => {
      const tUs = workUs * speed;
      const part = parts.findLast(({ startUs }) => startUs <= tUs) ?? parts[0];
      const sink = await part?.sink.catch(() => null);
      // Matroska counts in milliseconds, rounded.
      const sample = await sink?.getSample((tUs + 1000) / 1e6);
      if (!sample) return null;
      const frame = sample.toVideoFrame();
      sample.close();
      return frame;
    },
    close: () => {
      for (const { input } of parts) input.dispose();
    },
  };
}
