import { type EncodedPacket, EncodedPacketSink, type InputVideoTrack, VideoSample } from 'mediabunny';
import { isDisposable, lengthBytesOf } from '@/core/codec/avc-picture';

/** One decoder that stays configured: opening one for each seek took longer than decoding half a second. */
export type PictureDecoder = {
  /**
   * Decodes from a keyframe to the picture of a time. Ends what it did before.
   * @param stretch the pictures that are wanted: what lies before is decoded only where they need it
   * @param onPicture gets every picture that is decoded and closes it
   * @returns when the last picture was given, or something newer was asked
   */
  readonly decode: (
    key: EncodedPacket,
    stretch: Stretch,
    onPicture: (picture: VideoSample) => void,
  ) => Promise<void>;
};

export type Stretch = { fromSeconds: number; toSeconds: number };

/** Packets that wait in the decoder: enough that it never does. */
const QUEUE = 24;

export function openPictureDecoder(track: InputVideoTrack): PictureDecoder {
  const packets = new EncodedPacketSink(track);
  let decoder: VideoDecoder | null = null;
  let take: (frame: VideoFrame) => void = (frame) => frame.close();
  let fail: (error: unknown) => void = () => undefined;
  let end: () => void = () => undefined;
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
    decode: async (key, { fromSeconds, toSeconds }, onPicture) => {
      const mine = ++latest;
      end();
      const config = await track.getDecoderConfig();
      if (!config) throw new Error('This browser cannot decode the track.');
      if (mine !== latest) return;
      const now = ready(config);
      const isSpare = spareIn(config);
      idle = false;
      const lastUs = Math.round(toSeconds * 1e6);
      await new Promise<void>((resolve, reject) => {
        end = resolve;
        fail = reject;
        take = (frame) => {
          if (mine !== latest) return frame.close();
          const { timestamp } = frame;
          onPicture(new VideoSample(frame));
          if (timestamp >= lastUs) resolve();
        };
        const feed = async () => {
          for await (const packet of packets.packets(key)) {
            if (mine !== latest || packet.timestamp > toSeconds + 1e-5) break;
            if (packet.timestamp < fromSeconds && isSpare(packet.data)) continue;
            now.decode(packet.toEncodedVideoChunk());
            while (mine === latest && now.decodeQueueSize >= QUEUE)
              await new Promise((done) => now.addEventListener('dequeue', done, { once: true }));
          }
          if (mine === latest) {
            await now.flush();
            idle = true;
          }
          resolve();
        };
        // A reset rejects what is being flushed: that wish was given up.
        feed().catch((error) => (mine === latest ? reject(error) : resolve()));
      });
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
