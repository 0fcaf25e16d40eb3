import type { Loudness } from '@/core/deliver/levelling';
import { words } from './ffmpeg';

/**
 * Programme loudness and true peak by ITU-R BS.1770-4.
 * @param input options and file for ffmpeg
 * @returns null when everything is below the gate: there is nothing to hear
 */
export async function measureLoudness(
  input: readonly string[],
  signal?: AbortSignal,
): Promise<Loudness | null> {
  const meter = ['-vn', '-af', 'ebur128=peak=true:framelog=verbose', '-f', 'null', '-'];
  const said = await words([...WORDS_ONLY, ...input, ...meter], signal);
  const summary = said.slice(said.lastIndexOf('Summary:'));
  const lufs = programmeOf(summary);
  const truePeakDbtp = Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(summary)?.[1]);
  return lufs !== null && Number.isFinite(truePeakDbtp) ? { lufs, truePeakDbtp } : null;
}

/**
 * Programme loudness behind each of some filters, LUFS, without true peaks: those take as long again. All are metered by one program.
 * @returns null when everything is below the gate
 */
export async function measureProgrammes(
  input: readonly string[],
  filters: readonly string[],
  signal?: AbortSignal,
): Promise<(number | null)[]> {
  const copies = filters.map((_, n) => `[in${n}]`).join('');
  const chains = filters.map((filter, n) => `[in${n}]${filter},ebur128@${n}=framelog=verbose[out${n}]`);
  const graph = [`asplit=${filters.length}${copies}`, ...chains].join(';');
  const outputs = filters.flatMap((_, n) => ['-map', `[out${n}]`]);
  const said = await words(
    [...WORDS_ONLY, ...input, '-filter_complex', graph, ...outputs, '-f', 'null', '-'],
    signal,
  );
  return filters.map((_, n) => programmeOf(said.slice(said.lastIndexOf(`[ebur128@${n} @`))));
}

/** Below the absolute gate of BS.1770-4 the meter says −70: nothing was above it. */
function programmeOf(summary: string): number | null {
  const lufs = Number(/I:\s+(-?[\d.]+) LUFS/.exec(summary)?.[1]);
  return Number.isFinite(lufs) && lufs > -69.9 ? lufs : null;
}

const WORDS_ONLY = ['-hide_banner', '-nostdin', '-nostats'];
