import type { EncodedPacket, VideoSample } from 'mediabunny';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPictureDecoder, type Stretch } from './picture-decoder';

const FPS = 25;
const usOf = (n: number) => n * 40_000;

/** Four bytes of length and the byte that tells how a picture is used: ITU-T H.264 7.3.1. */
const unit = (type: number, refIdc: number) => Uint8Array.of(0, 0, 0, 2, (refIdc << 5) | type, 0x88);
const packetOf = (n: number): EncodedPacket => {
  const isKey = n % 10 === 0;
  return {
    timestamp: n / FPS,
    microsecondTimestamp: usOf(n),
    data: isKey ? unit(5, 3) : unit(1, n % 2 === 0 ? 2 : 0),
    toEncodedVideoChunk: () => ({ timestamp: usOf(n), type: isKey ? 'key' : 'delta' }),
  } as EncodedPacket;
};

/** As much of a frame as a sample is made of. */
class FakeFrame {
  static readonly open = new Set<FakeFrame>();
  readonly format = 'I420';
  readonly codedWidth = 64;
  readonly codedHeight = 36;
  readonly displayWidth = 64;
  readonly displayHeight = 36;
  readonly visibleRect = { x: 0, y: 0, width: 64, height: 36 };
  readonly colorSpace = {};
  constructor(readonly timestamp: number) {
    FakeFrame.open.add(this);
  }
  close() {
    FakeFrame.open.delete(this);
  }
}

/** Gives a picture for each chunk a moment later, in order. */
class FakeDecoder {
  static readonly made: FakeDecoder[] = [];
  state = 'unconfigured';
  decodeQueueSize = 0;
  readonly fed: number[] = [];
  private waiting: Promise<unknown> = Promise.resolve();
  private life = 0;
  private readonly listeners: (() => void)[] = [];
  constructor(private readonly on: { output: (frame: unknown) => void; error: (error: Error) => void }) {
    FakeDecoder.made.push(this);
  }
  configure() {
    this.state = 'configured';
  }
  decode({ timestamp }: { timestamp: number }) {
    if (this.state !== 'configured') throw new Error('not configured');
    this.decodeQueueSize++;
    this.fed.push(timestamp / 40_000);
    const life = this.life;
    this.waiting = this.waiting.then(async () => {
      await new Promise((done) => setTimeout(done, 3));
      if (life !== this.life) return;
      this.decodeQueueSize--;
      for (const listener of this.listeners.splice(0)) listener();
      this.on.output(new FakeFrame(timestamp));
    });
  }
  addEventListener(_: string, listener: () => void) {
    this.listeners.push(listener);
  }
  async flush() {
    const life = this.life;
    await this.waiting;
    if (life !== this.life) throw new Error('aborted');
  }
  reset() {
    this.life++;
    this.decodeQueueSize = 0;
    this.state = 'unconfigured';
  }
  close() {
    this.reset();
    this.state = 'closed';
  }
  fail(message: string) {
    this.close();
    this.on.error(new Error(message));
  }
}

const description = Uint8Array.of(1, 0x64, 0, 0x28, 0xff);

function opened({ count = 40, codec = 'avc1.640028' }: { count?: number; codec?: string } = {}) {
  const packets = {
    getNextPacket: async ({ timestamp }: EncodedPacket) => {
      const n = Math.round(timestamp * FPS) + 1;
      return n < count ? packetOf(n) : null;
    },
  };
  const decoder = openPictureDecoder(packets, async () => ({ codec, description }));
  const decode = async (from: number, stretch: Partial<Stretch> & { to: number }) => {
    const pictures: { n: number; isLast: boolean }[] = [];
    const { to, ...rest } = stretch;
    const isThere = await decoder.decode(
      packetOf(from),
      { fromSeconds: to / FPS, toSeconds: to / FPS, ...rest },
      (picture: VideoSample, isLast) => {
        pictures.push({ n: Math.round(picture.timestamp * FPS), isLast });
        picture.close();
      },
    );
    return { isThere, pictures };
  };
  return { decoder, decode };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('VideoDecoder', FakeDecoder);
  vi.stubGlobal('VideoFrame', FakeFrame);
  FakeDecoder.made.length = 0;
  FakeFrame.open.clear();
});
afterEach(() => {
  expect(FakeFrame.open.size).toBe(0);
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** Lets the decoder work until a promise is there. */
async function settled<T>(promise: Promise<T>): Promise<T> {
  await vi.advanceTimersByTimeAsync(2000);
  return promise;
}

describe('a decoder of pictures', () => {
  it('leaves out pictures that no other needs on its way, and gives the one that stands at the time last', async () => {
    const { decode } = opened();
    const even = await settled(decode(10, { to: 16 }));
    expect(even).toEqual({
      isThere: true,
      pictures: [10, 12, 14, 16].map((n) => ({ n, isLast: n === 16 })),
    });
    // A little before the next one, and a picture that none needs but who looks for it.
    const odd = await settled(decode(10, { to: 17.9 }));
    expect(odd.pictures.map(({ n }) => n)).toEqual([10, 12, 14, 16, 17]);
    expect(odd.pictures.at(-1)?.isLast).toBe(true);
    expect(FakeDecoder.made).toHaveLength(1);
  });

  it('gives every picture of the stretch that is wanted', async () => {
    const { decode } = opened();
    const { pictures } = await settled(decode(10, { fromSeconds: 15 / FPS, to: 18 }));
    expect(pictures.map(({ n }) => n)).toEqual([10, 12, 14, 15, 16, 17, 18]);
  });

  it('leaves nothing out where the codec does not tell', async () => {
    const { decode } = opened({ codec: 'vp09.00.40.08' });
    const { pictures } = await settled(decode(10, { to: 14 }));
    expect(pictures.map(({ n }) => n)).toEqual([10, 11, 12, 13, 14]);
  });

  it.each([
    ['at its own time', 20, 20, 40],
    ['before the first picture of the file', 0, -3, 40],
    ['as the last of the file', 30, 36, 31],
  ])('gives the keyframe alone %s', async (_, key, to, count) => {
    const { decode } = opened({ count });
    const { isThere, pictures } = await settled(decode(key, { to }));
    expect(isThere).toBe(true);
    expect(pictures).toEqual([{ n: key, isLast: true }]);
  });

  it('waits after the keyframe where it was asked to', async () => {
    const { decode } = opened();
    let go = () => {};
    const afterKey = new Promise<void>((done) => {
      go = done;
    });
    const there = decode(10, { to: 13, afterKey });
    await vi.advanceTimersByTimeAsync(500);
    expect(FakeDecoder.made[0]?.fed).toEqual([10]);
    go();
    expect((await settled(there)).pictures).toEqual([
      { n: 10, isLast: false },
      { n: 12, isLast: false },
      { n: 13, isLast: true },
    ]);
  });

  it('gives up what it was at for something newer, even while that waits', async () => {
    const { decode } = opened();
    const first = decode(0, { to: 9 });
    await vi.advanceTimersByTimeAsync(7);
    const waiting = decode(10, { to: 19, afterKey: new Promise(() => {}) });
    await vi.advanceTimersByTimeAsync(100);
    const last = await settled(decode(20, { to: 22 }));
    expect((await first).isThere).toBe(false);
    expect(await waiting).toEqual({ isThere: false, pictures: [{ n: 10, isLast: false }] });
    expect(last.pictures.map(({ n }) => n)).toEqual([20, 22]);
  });

  it('tells that it failed, and begins again with the next wish', async () => {
    const { decode } = opened();
    const failing = expect(decode(0, { to: 9 })).rejects.toThrow('out of memory');
    await vi.advanceTimersByTimeAsync(7);
    FakeDecoder.made[0]?.fail('out of memory');
    await failing;
    expect((await settled(decode(10, { to: 12 }))).pictures.map(({ n }) => n)).toEqual([10, 12]);
    expect(FakeDecoder.made).toHaveLength(2);
  });

  it('gives nothing more once it is closed', async () => {
    const { decoder, decode } = opened();
    const there = decode(0, { to: 9 });
    await vi.advanceTimersByTimeAsync(7);
    decoder.close();
    const { isThere, pictures } = await settled(there);
    expect(isThere).toBe(false);
    expect(pictures.length).toBeLessThan(3);
    expect(FakeDecoder.made[0]?.state).toBe('closed');
  });
});
