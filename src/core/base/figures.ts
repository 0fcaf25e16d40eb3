/** How figures are written everywhere, so that the same amount never reads two ways. */

/** 1000 bytes are a kilobyte, as on disks and in data sheets. */
export function bytesText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const units = ['kB', 'MB', 'GB', 'TB'];
  let value = bytes / 1000;
  let unit = 0;
  while (value >= 999.5 && unit < units.length - 1) {
    value /= 1000;
    unit++;
  }
  return `${value < 10 ? value.toFixed(1) : value.toFixed(0)} ${units[unit]}`;
}

/** "3:24", "1:02:09": a length or a place in a take. */
export function clockText(us: number): string {
  const total = Math.max(0, Math.floor(us / 1_000_000));
  const [h, m, s] = [Math.floor(total / 3600), Math.floor(total / 60) % 60, total % 60];
  const two = (v: number) => String(v).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

/** A number as people write it, with a true minus: "−16". */
export const levelText = (db: number): string => `${db < 0 ? '−' : ''}${Math.abs(db)}`;

/** A value to so many significant digits: an estimate says no more than it knows. */
export const significant = (value: number, digits: number): number => Number(value.toPrecision(digits));

/** An estimate of bits a second: two digits that count. */
export function aboutBitrateText(bitsPerSecond: number): string {
  const value = significant(bitsPerSecond, 2);
  const [by, unit] = value >= 1e9 ? [1e9, 'Gb/s'] : value >= 1e6 ? [1e6, 'Mb/s'] : [1e3, 'kb/s'];
  return `${significant(value / by, 2)} ${unit}`;
}

/** An estimate of bytes: two digits that count. */
export const aboutBytesText = (bytes: number): string => bytesText(significant(bytes, 2));

/** Bits a second in the unit that keeps three figures or fewer before the point. */
export function bitrateText(bitsPerSecond: number): string {
  if (bitsPerSecond >= 1e9) return `${(bitsPerSecond / 1e9).toFixed(2)} Gb/s`;
  if (bitsPerSecond >= 1e6)
    return `${(bitsPerSecond / 1e6).toFixed(bitsPerSecond >= 1e8 ? 0 : bitsPerSecond >= 1e7 ? 1 : 2)} Mb/s`;
  return `${Math.round(bitsPerSecond / 1000)} kb/s`;
}
