import { type EncodedPacket, type EncodedPacketSink, VideoSample } from 'mediabunny';
import { isDisposable, lengthBytesOf } from '@/core/codec/avc-picture';

/** One decoder that stays configured: opening one for each seek took longer than decoding half a second. */
export type PictureDecoder = {
  /**
   * Decodes from a keyframe to the picture that stands at a time. Ends what it did before.
   * @param onPicture gets every picture that is decoded and closes it; of a keyframe it may not be known yet that it is the last
   * @returns whether the last picture was given; false when something newer was asked
   */
  readonly decode: (
    key: EncodedPacket,
    stretch: Stretch,
    onPicture: (picture: VideoSample, isLast: boolean) => void,
  ) => Promise<boolean>;
  readonly close: () => void;
};

export type Stretch = {
  /** What lies before is decoded only where the pictures of the stretch need it. */
  fromSeconds: number;
  toSeconds: number;
  /** What comes after the keyframe waits for this. */
  afterKey?: Promise<unknown>;
};

/** Packets that wait in the decoder: enough that it never does. */
const QUEUE = 24;

/** @param configOf null where this browser cannot decode the track */
export function openPictureDecoder(
  packets: Pick<EncodedPacketSink, 'getNextPacket'>,
  configOf: () => Promise<VideoDecoderConfig | null>,
): PictureDecoder {
  let decoder: VideoDecoder | null = null;
  let take: (frame: VideoFrame) => void = (frame) => frame.close();
  let fail: (error: unknown) => void = () => undefined;
  let end: (isThere: boolean) => void = () => undefined;
  let latest = 0;
  /** Everything that was fed came out. */
  let idle = false;

  const ready = (config: VideoDecoderConfig): VideoDecoder => {
    if (!decoder || decoder.state === 'closed')
      decoder = new VideoDecoder({ output: (frame) => take(frame), error: (error) => fail(error) });
    // A decoder that has given all it had goes on with any keyframe.
    if (idle && decoder.state === 'configured') return decoder;
    // What an older wish left in it is thrown away.
    if (decoder.state === 'configured') decoder.reset();
    // Without this a decoder keeps pictures back until more packets come, which costs a tenth of a seek.
    decoder.configure({ ...config, optimizeForLatency: true });
    return decoder;
  };

  return {
    decode: async (key, { fromSeconds, toSeconds, afterKey }, onPicture) => {
      const mine = ++latest;
      end(false);
      const config = await configOf();
      if (!config) throw new Error('This browser cannot decode the track.');
      if (mine !== latest) return false;
      const now = ready(config);
      const isSpare = spareIn(config);
      idle = false;
      return new Promise<boolean>((resolve, reject) => {
        end = resolve;
        fail = reject;
        let givenUs = Number.NEGATIVE_INFINITY;
        /** Known when the packet after it is. */
        let lastUs = Number.POSITIVE_INFINITY;
        take = (frame) => {
          if (mine !== latest) return frame.close();
          givenUs = frame.timestamp;
          onPicture(new VideoSample(frame), givenUs >= lastUs);
          if (givenUs >= lastUs) resolve(true);
        };
        const give = async (packet: EncodedPacket) => {
          now.decode(packet.toEncodedVideoChunk());
          while (mine === latest && now.decodeQueueSize >= QUEUE)
            await new Promise((done) => now.addEventListener('dequeue', done, { once: true }));
        };
        const feed = async () => {
          await give(key);
          await afterKey;
          let packet = key;
          while (mine === latest && lastUs === Number.POSITIVE_INFINITY) {
            const next = await packets.getNextPacket(packet);
            if (mine !== latest) break;
            const isLast = !next || next.timestamp > toSeconds + 1e-5;
            if (isLast) lastUs = packet.microsecondTimestamp;
            const isWanted = isLast || packet.timestamp >= fromSeconds || !isSpare(packet.data);
            if (packet !== key && isWanted) await give(packet);
            packet = next ?? packet;
          }
          if (mine === latest) {
            // The keyframe itself may be the last, and given before that was known.
            if (givenUs >= lastUs) resolve(true);
            await now.flush();
            idle = true;
          }
          resolve(mine === latest);
        };
        // A reset rejects what is being flushed: that wish was given up.
        feed().catch((error) => (mine === latest ? reject(error) : resolve(false)));
      });
    },
    close: () => {
      latest++;
      end(false);
      if (decoder && decoder.state !== 'closed') decoder.close();
    },
  };
}

/** Whether the pictures after a packet of a track can be decoded without it, as far as its codec tells. */
function spareIn({ codec, description }: VideoDecoderConfig): (packet: Uint8Array) => boolean {
  if (!codec.startsWith('avc1') || !description) return () => false;
  const record = ArrayBuffer.isView(description)
    ? new Uint8Array(description.buffer, description.byteOffset, description.byteLength)
    : new Uint8Array(description);
  const lengthBytes = lengthBytesOf(record);
  return (packet) => isDisposable(packet, lengthBytes);
}
