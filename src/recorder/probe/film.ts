import type { Size } from '@/core/base/sizes';

/** One encoder at work on a short film: what came out, and how long it took. */
export type Encoded = {
  bytes: number;
  ms: number;
  pictures: number;
  chunks: EncodedVideoChunk[];
  config: VideoDecoderConfig | null;
};

/**
 * Encodes pictures as fast as an encoder takes them.
 * @param budgetMs no further picture is begun after this long
 */
export async function encodeFilm(
  config: VideoEncoderConfig,
  options: VideoEncoderEncodeOptions,
  film: Iterable<VideoFrame>,
  budgetMs = Number.POSITIVE_INFINITY,
): Promise<Encoded> {
  let failed: unknown = null;
  let freed: () => void = () => undefined;
  const done: Encoded = { bytes: 0, ms: 0, pictures: 0, chunks: [], config: null };
  const encoder = new VideoEncoder({
    output: (chunk, meta) => {
      done.bytes += chunk.byteLength;
      done.chunks.push(chunk);
      done.config ??= meta?.decoderConfig ?? null;
      freed();
    },
    error: (error) => {
      failed = error;
      freed();
    },
  });
  encoder.configure(config);
  const began = performance.now();
  for (const picture of film) {
    if (failed || performance.now() - began > budgetMs) {
      picture.close();
      continue;
    }
    while (encoder.encodeQueueSize >= 2 && !failed)
      await new Promise<void>((resolve) => {
        freed = resolve;
      });
    encoder.encode(picture, { ...options, keyFrame: done.pictures === 0 });
    picture.close();
    done.pictures++;
  }
  if (failed) throw failed;
  await encoder.flush();
  done.ms = performance.now() - began;
  encoder.close();
  return done;
}

/** Decodes a film and hands over the pictures of these numbers; the others are let go. */
export async function decodeFilm(
  { chunks, config }: Encoded,
  wanted: ReadonlySet<number>,
  onPicture: (picture: VideoFrame, n: number) => Promise<void>,
): Promise<void> {
  if (!config) throw new Error('The encoder did not say how its film is decoded.');
  let n = 0;
  let failed: unknown = null;
  const kept: [VideoFrame, number][] = [];
  const decoder = new VideoDecoder({
    output: (picture) => {
      if (wanted.has(n)) kept.push([picture, n]);
      else picture.close();
      n++;
    },
    error: (error) => {
      failed = error;
    },
  });
  try {
    decoder.configure(config);
    for (const chunk of chunks) decoder.decode(chunk);
    await decoder.flush();
    decoder.close();
    if (failed) throw failed;
    for (const [picture, at] of kept) await onPicture(picture, at);
  } finally {
    for (const [picture] of kept) picture.close();
  }
}

/** The luma plane of a picture, its rows without gaps. */
export async function lumaOf(picture: VideoFrame): Promise<Size & { data: Uint8Array }> {
  const { width, height } = picture.visibleRect ?? { width: picture.codedWidth, height: picture.codedHeight };
  const all = new Uint8Array(picture.allocationSize());
  const [luma] = await picture.copyTo(all);
  const { offset = 0, stride = width } = luma ?? {};
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    data.set(all.subarray(offset + y * stride, offset + y * stride + width), y * width);
  return { width, height, data };
}
