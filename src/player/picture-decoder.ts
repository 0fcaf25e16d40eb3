import { type EncodedPacket, EncodedPacketSink, type InputVideoTrack, VideoSample } from 'mediabunny';

/** One decoder that stays configured: opening one for each seek took longer than decoding half a second. */
export type PictureDecoder = {
  /**
   * Decodes from a keyframe to the picture of a time. Ends what it did before.
   * @param onPicture gets every picture on the way and closes it
   * @returns when the last picture was given, or something newer was asked
   */
  readonly decode: (
    key: EncodedPacket,
    toSeconds: number,
    onPicture: (picture: VideoSample) => void,
  ) => Promise<void>;
};

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

  const ready = async (): Promise<VideoDecoder> => {
    const config = await track.getDecoderConfig();
    if (!config) throw new Error('This browser cannot decode the track.');
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
    decode: async (key, toSeconds, onPicture) => {
      const mine = ++latest;
      end();
      const now = await ready();
      if (mine !== latest) return;
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
