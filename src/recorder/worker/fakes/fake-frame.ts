import type { Size } from '@/core/base/sizes';

/** A picture without pixels that knows whether it was closed: every one must be, once. */
export class FakeFrame {
  static readonly open = new Set<FakeFrame>();
  readonly visibleRect: { x: number; y: number; width: number; height: number };
  readonly codedWidth: number;
  readonly codedHeight: number;

  constructor(
    private readonly size: Size,
    readonly timestamp: number,
  ) {
    this.codedWidth = size.width;
    this.codedHeight = size.height;
    this.visibleRect = { x: 0, y: 0, ...size };
    FakeFrame.open.add(this);
  }

  clone(): FakeFrame {
    return new FakeFrame(this.size, this.timestamp);
  }

  close(): void {
    if (!FakeFrame.open.delete(this)) throw new Error('A picture was closed twice.');
  }
}

export const fakeFrame = (size: Size, timestamp: number): VideoFrame =>
  new FakeFrame(size, timestamp) as unknown as VideoFrame;
