/** A time as ffmpeg takes it: seconds, with every microsecond. */
export const seconds = (us: number): string => (us / 1e6).toFixed(6);
