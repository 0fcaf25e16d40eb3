import { FakeFrame } from './fake-frame';

/** A video encoder for tests: it gives packets when it is told to, and fails when it is told to. */
export type FakeEncoder = VideoEncoder & {
  /** Gives back the packets of so many pictures, or of all. */
  readonly finish: (pictures?: number) => void;
  /** Reports an error and closes, as an encoder whose process dies. */
  readonly die: () => void;
  readonly given: { tUs: number; keyFrame: boolean }[];
};

/** What one of them does wrong. */
export type Flaw = 'configure' | 'encode' | 'flush';

/** @returns what opens encoders, and those that were opened */
export function fakeEncoders(flaws: readonly (Flaw | null)[] = []) {
  const opened: FakeEncoder[] = [];
  const open = (init: VideoEncoderInit): VideoEncoder => {
    const flaw = flaws[opened.length] ?? null;
    const inside: { tUs: number; keyFrame: boolean }[] = [];
    const given: { tUs: number; keyFrame: boolean }[] = [];
    let state: CodecState = 'unconfigured';
    const mustBeOpen = () => {
      if (state !== 'configured') throw new DOMException('The codec is closed.', 'InvalidStateError');
    };
    const finish = (pictures = inside.length) => {
      for (const { tUs, keyFrame } of inside.splice(0, pictures))
        init.output({
          type: keyFrame ? 'key' : 'delta',
          timestamp: tUs,
          duration: null,
          byteLength: 1,
          copyTo: () => undefined,
        } as EncodedVideoChunk);
    };
    const encoder = {
      given,
      finish,
      die: () => {
        state = 'closed';
        init.error(new DOMException('The encoder died.', 'EncodingError'));
      },
      get state() {
        return state;
      },
      get encodeQueueSize() {
        return inside.length;
      },
      configure: () => {
        if (flaw === 'configure') throw new DOMException('Refused.', 'NotSupportedError');
        state = 'configured';
      },
      encode: (frame: VideoFrame, options?: VideoEncoderEncodeOptions) => {
        mustBeOpen();
        if (flaw === 'encode') throw new DOMException('Torn.', 'EncodingError');
        const one = { tUs: frame.timestamp, keyFrame: options?.keyFrame ?? false };
        inside.push(one);
        given.push(one);
      },
      flush: async () => {
        mustBeOpen();
        if (flaw === 'flush') throw new DOMException('Torn.', 'EncodingError');
        finish();
      },
      close: () => {
        mustBeOpen();
        state = 'closed';
      },
    };
    opened.push(encoder as unknown as FakeEncoder);
    return encoder as unknown as VideoEncoder;
  };
  return { open, opened };
}

/** A framing that changes nothing but the time. */
export const fakeFraming = () => ({
  cut: (picture: VideoFrame, timestamp: number) =>
    new FakeFrame(
      { width: picture.codedWidth, height: picture.codedHeight },
      timestamp,
    ) as unknown as VideoFrame,
  compose: () => Promise.reject(new Error('Nothing is composed here.')),
});
