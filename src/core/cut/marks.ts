import type { TakeId } from '../base/ids';
import { type Cut, instantInVideo, placedPieces, seenIn } from './cut';
import type { MarkChange } from './mark';

/**
 * Marks of the takes as the lesson sees them. What was recorded stays in its take; a cut keeps what was changed of it, and marks that were
 * added later, so that every change can be undone.
 */

/** A mark at its present time. */
export type Mark = Omit<MarkChange, 'atUs'> & { atUs: number };

/** What is known of the marks of a take. */
export type MarkedTake = { id: TakeId; marksUs: readonly number[] };

type Marked = Pick<Cut, 'marks'>;
type Known = Pick<MarkChange, 'take' | 'setUs'>;

const isOf = (a: Known, b: Known): boolean => a.take === b.take && a.setUs === b.setUs;

/** The marks of a take, by their times. */
export function marksOf({ marks }: Marked, { id, marksUs }: MarkedTake): Mark[] {
  const recorded = [...new Set(marksUs)].map((setUs) => ({ take: id, setUs, atUs: setUs, title: '' }));
  const changed = marks.filter(({ take }) => take === id);
  return [...recorded.filter((mark) => !changed.some((change) => isOf(change, mark))), ...changed]
    .flatMap((mark) => (mark.atUs === null ? [] : [{ ...mark, atUs: mark.atUs }]))
    .sort((a, b) => a.atUs - b.atUs || a.setUs - b.setUs);
}

/** A mark that is seen in the video, and where. */
export type PlacedMark = Mark & {
  /** µs of the video. */
  us: number;
  /** Of the step that shows it: so much time of the take is one of the video. */
  speed: number;
};

/** The marks that the video shows, in its order; those at what was cut away are not among them. */
export const placedMarks = (cut: Cut, takes: readonly MarkedTake[]): PlacedMark[] =>
  takes
    .flatMap((take) => marksOf(cut, take))
    .flatMap((mark) => {
      const seen = seenIn(cut, mark.take, mark.atUs);
      return seen ? [{ ...mark, us: instantInVideo(seen, mark.atUs), speed: seen.step.speed }] : [];
    })
    .sort((a, b) => a.us - b.us);

const withChange = (cut: Cut, change: MarkChange): Cut => ({
  ...cut,
  marks: [...cut.marks.filter((each) => !isOf(each, change)), change],
});

/**
 * Adds a mark at a place of the video.
 * @returns the same cut where there is a mark already, or a held picture, which is no instant of its take
 */
export function addMark(cut: Cut, takes: readonly MarkedTake[], us: number): Cut {
  const here = placedPieces(cut).find(({ startUs, endUs }) => startUs <= us && us < endUs);
  const take = takes.find(({ id }) => id === here?.piece.take);
  if (!here || !take || here.piece.heldUs !== undefined) return cut;
  const { piece, step, startUs } = here;
  const setUs = Math.min(piece.outUs - 1, piece.inUs + Math.round((us - startUs) * step.speed));
  if (marksOf(cut, take).some(({ atUs }) => atUs === setUs)) return cut;
  return withChange(cut, { take: take.id, setUs, atUs: setUs, title: '' });
}

/** Moves a mark along its take, within the piece that shows it. @param byUs of the take */
export function moveMark(cut: Cut, mark: Mark, byUs: number): Cut {
  const piece = seenIn(cut, mark.take, mark.atUs)?.piece;
  if (!piece) return cut;
  const atUs = Math.max(piece.inUs, Math.min(piece.outUs - 1, mark.atUs + Math.round(byUs)));
  return withChange(cut, { ...changeOf(mark), atUs });
}

export const renameMark = (cut: Cut, mark: Mark, title: string): Cut =>
  withChange(cut, { ...changeOf(mark), title: title.slice(0, 200) });

/** Removes a mark from the lesson; its take keeps the recorded one. */
export const removeMark = (cut: Cut, mark: Mark): Cut => withChange(cut, { ...changeOf(mark), atUs: null });

/** Without what else a mark that is placed in the video says of itself. */
const changeOf = ({ take, setUs, atUs, title }: Mark): Mark => ({ take, setUs, atUs, title });

/** What a mark is called: its own name, or its place among those of the video. */
export const markTitle = ({ title }: Pick<Mark, 'title'>, index: number): string =>
  title || `Mark ${index + 1}`;
