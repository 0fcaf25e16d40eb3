import { type Cut, placedSteps, stepTitle } from './cut';

/** A stretch of a finished video that has a name. */
export type Chapter = { title: string; startUs: number; endUs: number };

/** The steps of a cut as chapters of its video; none for a single step, which would say nothing. */
export function chaptersOf(cut: Cut): Chapter[] {
  if (cut.steps.length < 2) return [];
  return placedSteps(cut).map(({ step, startUs, endUs }) => ({
    title: stepTitle(cut, step.id),
    startUs,
    endUs,
  }));
}

/** Of these, "=", ";", "#", "\" and line ends "must be escaped with a backslash" (FFmpeg formats, "Metadata"). */
const escaped = (text: string): string => text.replace(/[=;#\\\n]/g, (character) => `\\${character}`);

/** Chapters as FFmpeg reads them: an FFMETADATA1 file. */
export const chaptersText = (chapters: readonly Chapter[]): string =>
  [
    ';FFMETADATA1',
    ...chapters.flatMap(({ title, startUs, endUs }) => [
      '[CHAPTER]',
      'TIMEBASE=1/1000000',
      `START=${startUs}`,
      `END=${endUs}`,
      `title=${escaped(title)}`,
    ]),
    '',
  ].join('\n');
