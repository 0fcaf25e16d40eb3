import { z } from 'zod';
import { percentile } from '@/core/levels';
import { output } from './ffmpeg';

const Packets = z.object({
  format: z.object({ format_name: z.string() }),
  packets: z.array(z.object({ pts_time: z.string().optional() })),
});

/**
 * What kind of file it is and the times of every packet of its first stream, as the file says, in µs and in their order.
 * @throws when it is no media file
 */
export async function packetTimes(path: string): Promise<{ format: string; timesUs: number[] }> {
  const entries = ['-select_streams', '0', '-show_entries', 'format=format_name:packet=pts_time'];
  const said = await output('ffprobe', ['-v', 'error', ...entries, '-of', 'json', path]);
  const { format, packets } = Packets.parse(JSON.parse(said));
  const timesUs = packets.flatMap(({ pts_time }) => (pts_time ? [Math.round(Number(pts_time) * 1e6)] : []));
  return { format: format.format_name, timesUs };
}

/** True figures of a picture track, from its packets. */
export function frameFigures(timesUs: readonly number[]): {
  frames: number;
  medianFps: number;
  longestGapMs: number;
} {
  const gaps = timesUs.slice(1).map((time, i) => time - (timesUs[i] ?? 0));
  const median = percentile(gaps, 0.5);
  return {
    frames: timesUs.length,
    medianFps: median > 0 ? 1e6 / median : 0,
    longestGapMs: gaps.reduce((longest, gap) => Math.max(longest, gap), 0) / 1000,
  };
}
