import { percentile } from '@/core/base/percentile';
import { lines } from './ffmpeg';

/**
 * What kind of file it is and the times of every packet of its first stream, as the file says, in µs and in their order.
 * @throws when it is no media file
 */
export async function packetTimes(path: string): Promise<{ format: string; timesUs: number[] }> {
  const entries = ['-select_streams', '0', '-show_entries', 'format=format_name:packet=pts_time'];
  let format = '';
  const timesUs: number[] = [];
  await lines('ffprobe', ['-v', 'error', ...entries, '-of', 'csv', '-i', path], (line) => {
    const [section, value = ''] = line.split(',');
    const us = Math.round(Number.parseFloat(value) * 1e6);
    if (section === 'format') format = line.slice('format,'.length);
    else if (section === 'packet' && Number.isFinite(us)) timesUs.push(us);
  });
  return { format, timesUs };
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
