import { EncodedPacketSink, type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny';
import { newBell } from '@/core/base/bell';
import { openPictureDecoder } from './picture-decoder';
import { mostOf, openPictureWindow, type PictureWindow } from './picture-window';

/** The pictures of one track: the one that stands at a time, and those that come after it while it plays. */
export type PictureLane = {
  /** The picture on screen, or null before the track's first. */
  readonly shown: () => VideoSample | null;
  /**
   * Shows exactly the picture of a time.
   * @param onKey called when the keyframe before it is shown on the way: quick, but not yet the right picture
   * @param afterKey what comes after the keyframe is decoded when this resolves
   */
  readonly show: (us: number, onKey?: () => void, afterKey?: Promise<unknown>) => Promise<void>;
  /** Decodes what lies about the picture, soon, while nothing else is wished. */
  readonly settle: () => void;
  /** Begins to decode ahead from a time. */
  readonly run: (us: number) => void;
  readonly halt: () => void;
  /**
   * Moves on to the picture of a time from what was decoded ahead.
   * @returns how many pictures were due since the last call, and of these how many nobody saw in time
   */
  readonly advance: (us: number) => Advance;
  /** Lets go of every picture; nothing is wished any more. */
  readonly close: () => void;
};

export type Advance = { due: number; missed: number };

const AHEAD = 4;
/** After a seek; a hand that goes on at once needs the processor for where it goes. */
const REST_MS = 150;
/** A picture that comes later than this after its time was missed, even when it is still shown. */
const LATE_US = 50_000;

/** Pictures decoded ahead of the one that is shown. @param toTake a sample's time on the take, µs */
function openAhead(samples: Pick<VideoSampleSink, 'samples'>, toTake: (seconds: number) => number) {
  let ahead: VideoSample[] = [];
  /** Rings when pictures are used, or not wanted any more. */
  const taken = newBell();
  return {
    clear: () => {
      for (const sample of ahead) sample.close();
      ahead = [];
      taken.ring();
    },
    /** Decodes from a place of the file on, a few pictures ahead, for as long as they are wanted. */
    decode: async (seconds: number, wanted: () => boolean) => {
      for await (const sample of samples.samples(Math.max(0, seconds))) {
        while (wanted() && ahead.length >= AHEAD) await taken.next();
        if (!wanted()) return sample.close();
        ahead.push(sample);
      }
    },
    /** Takes those that are due, oldest first; they are the caller's. */
    due: (us: number): VideoSample[] => {
      const later = ahead.findIndex(({ timestamp }) => toTake(timestamp) > us);
      const due = ahead.splice(0, later < 0 ? ahead.length : later);
      if (due.length > 0) taken.ring();
      return due;
    },
  };
}

/** @param shiftUs added to the file's times to get the take's */
export function openPictureLane(track: InputVideoTrack, shiftUs: number): PictureLane {
  const packets = new EncodedPacketSink(track);
  const window = openPictureWindow({
    decoder: openPictureDecoder(packets, () => track.getDecoderConfig()),
    packets,
    most: mostOf({ width: track.codedWidth, height: track.codedHeight }),
  });
  return laneOf(new VideoSampleSink(track), window, shiftUs);
}

/** A lane of what decodes its pictures one after the other, and of a window about one of them. */
export function laneOf(
  samples: Pick<VideoSampleSink, 'samples'>,
  window: PictureWindow,
  shiftUs: number,
): PictureLane {
  const toFile = (us: number) => (us - shiftUs) / 1e6;
  const toTake = (seconds: number) => Math.round(seconds * 1e6) + shiftUs;
  let shown: VideoSample | null = null;
  const ahead = openAhead(samples, toTake);
  /** Grows with every new wish: what was begun for an older one is thrown away. */
  let wish = 0;
  let running = 0;
  /** One at a time decodes what lies about; a wish for what is not here yet ends it. */
  let settling = 0;
  let isClosed = false;
  /** For work that nobody waits for. What a closed lane was still at may fail. */
  const unawaited = (what: string) => (error: unknown) => {
    if (!isClosed) console.error(what, error);
  };

  const put = (sample: VideoSample | null, of: number) => {
    if (of !== wish || !sample) return sample?.close();
    shown?.close();
    shown = sample;
  };
  const settle = async () => {
    if (!shown || settling !== 0) return;
    const mine = wish;
    const seconds = shown.timestamp;
    settling = mine;
    await new Promise((done) => setTimeout(done, REST_MS));
    if (settling === mine) await window.settle(seconds, () => settling === mine);
    if (settling === mine) settling = 0;
  };
  const show = async (us: number, onKey?: () => void, afterKey?: Promise<unknown>) => {
    const mine = ++wish;
    const seconds = toFile(us);
    const onDecode = () => {
      if (mine === wish) settling = 0;
      return mine === wish;
    };
    const onSample = (key: VideoSample) => {
      put(key, mine);
      if (mine === wish) onKey?.();
    };
    put(await window.at(seconds, onDecode, onSample, afterKey), mine);
  };

  return {
    shown: () => shown,
    show,
    settle: () => void settle().catch(unawaited('What lies about a picture could not be decoded.')),
    run: (us) => {
      const mine = ++wish;
      ahead.clear();
      settling = 0;
      window.clear();
      running = mine;
      void ahead
        .decode(toFile(us), () => running === mine)
        .catch(unawaited('A track could not be decoded further.'));
    },
    halt: () => {
      running = 0;
      ahead.clear();
    },
    advance: (us) => {
      const due = ahead.due(us);
      for (const sample of due) {
        shown?.close();
        shown = sample;
      }
      if (due.length === 0) return { due: 0, missed: 0 };
      const seen = us - toTake(shown?.timestamp ?? 0) <= LATE_US ? 1 : 0;
      return { due: due.length, missed: due.length - seen };
    },
    close: () => {
      isClosed = true;
      wish++;
      running = 0;
      settling = 0;
      ahead.clear();
      window.close();
      shown?.close();
      shown = null;
    },
  };
}
