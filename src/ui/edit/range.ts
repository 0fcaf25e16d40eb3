/** A stretch of the video, µs. */
export type Range = { fromUs: number; toUs: number };
