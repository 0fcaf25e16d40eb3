import { BlobSource, Input, MATROSKA, VideoSampleSink } from 'mediabunny';
import type { RehearsalFilm } from './rehearse';

/** The recorded screen of a rehearsal, frame by frame, as it was encoded. */
export type OpenFilm = {
  /** The frame that is shown at this time of the take; null where none is. It is its caller's, who closes it. */
  readonly frameAt: (tUs: number) => Promise<VideoFrame | null>;
  readonly close: () => void;
};

export function openFilm(film: RehearsalFilm): OpenFilm {
  const parts = film.map(({ startUs, file }) => {
    const input = new Input({ formats: [MATROSKA], source: new BlobSource(file) });
    const sink = input.getPrimaryVideoTrack().then((track) => track && new VideoSampleSink(track));
    // One that cannot be read has no frames.
    sink.catch(() => null);
    return { startUs, input, sink };
  });
  return {
    frameAt: async (tUs) => {
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
