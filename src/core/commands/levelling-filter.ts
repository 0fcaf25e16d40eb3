import type { Levelling } from '../deliver/levelling';
import { MIX_RATE } from '../deliver/sound-piece';

/** The filter that carries a levelling out. Peaks are looked for at four times the rate, where true peaks show. */
export function levellingFilter(level: Levelling): string {
  if (level.limitDbfs === null) return levellingForecast(level);
  const [gain, limiter] = levellingForecast(level).split(',');
  return `${gain},aresample=${4 * MIX_RATE},${limiter},aresample=${MIX_RATE}`;
}

/** The same at the mix's own rate: what it does to the loudness, in a fifth of the time. */
export function levellingForecast({ gainDb, limitDbfs }: Levelling): string {
  const gain = `volume=${gainDb.toFixed(3)}dB`;
  if (limitDbfs === null) return gain;
  const limit = (10 ** (limitDbfs / 20)).toFixed(6);
  return `${gain},alimiter=limit=${limit}:level=disabled:attack=2:release=40:latency=1`;
}
