/**
 * Takes a captured picture out of the browser's hands: the same pixels in memory of our own. A capture has very few places for its
 * pictures (two that are held at once halve its rate, and it stalls for as long as they stay held; measured with Chromium under X),
 * while a recorder holds one to repeat it, one that waits, and one in the encoder.
 * @param picture is closed
 * @returns the picture itself where its format is not known, as of one that lies in a graphics card
 */
export async function ownPicture(picture: VideoFrame): Promise<VideoFrame> {
  const { format, timestamp, duration, colorSpace, visibleRect } = picture;
  if (!format || !visibleRect) return picture;
  try {
    const data = new ArrayBuffer(picture.allocationSize());
    const layout = await picture.copyTo(data);
    // `transfer` gives the memory to the new picture, so that it is not copied once more (WebCodecs, 9.4, VideoFrameBufferInit).
    const init: VideoFrameBufferInit & { transfer: ArrayBuffer[] } = {
      format,
      codedWidth: visibleRect.width,
      codedHeight: visibleRect.height,
      layout,
      timestamp,
      duration: duration ?? undefined,
      colorSpace,
      transfer: [data],
    };
    return new VideoFrame(data, init);
  } finally {
    picture.close();
  }
}
