import { clockText } from '../base/figures';
import type { TakeId } from '../base/ids';
import { sameValue } from '../base/same-value';
import { type Cut, cutLengthUs, type Step, stepTitle } from './cut';

/** The takes that a cut shows. */
export const takesOf = (cut: Cut): Set<TakeId> =>
  new Set(cut.steps.flatMap(({ pieces }) => pieces.map(({ take }) => take)));

/** Whether nothing of one cut is left in the other: it is another video. */
export function isReplaced(before: Cut, after: Cut): boolean {
  const now = takesOf(after);
  return ![...takesOf(before)].some((take) => now.has(take));
}

/** A step in a sentence: its name, or its place. */
const quoted = (cut: Cut, { id, title }: Step) => (title ? `“${title}”` : stepTitle(cut, id).toLowerCase());

/** What a saved state changed, in a few words for a list: "Split “Intro”", "Deleted 0:07". */
export function describeChange(before: Cut, after: Cut): string {
  if (sameValue(before.steps, after.steps))
    return sameValue(before.marks, after.marks) ? 'Saved again' : 'Changed a mark';
  if (isReplaced(before, after)) return 'Replaced by another take';
  const [old, now] = [before.steps, after.steps];
  const again = recordedAgain(before, after);
  if (again) return `Replaced the take of ${quoted(after, again)}`;
  const shorterUs = cutLengthUs(before) - cutLengthUs(after);
  const lengths = lengthChange(shorterUs);
  if (now.length > old.length && shorterUs === 0) {
    const added = now.find(({ id }) => !old.some((step) => step.id === id));
    const parted = now[(added ? now.indexOf(added) : 0) - 1];
    return parted ? `Split ${quoted(after, parted)}` : 'Split a step';
  }
  if (now.length < old.length && shorterUs === 0) {
    const gone = old.find(({ id }) => !now.some((step) => step.id === id));
    return gone ? `Joined ${quoted(before, gone)} to the step before it` : 'Joined steps';
  }
  if (lengths) return lengths;
  if (
    !sameValue(
      old.map(({ id }) => id),
      now.map(({ id }) => id),
    )
  )
    return 'Moved a step';
  const changed = now.filter((step, i) => !sameValue(step, old[i]));
  const [first] = changed;
  if (!first || changed.length > 1) return `Changed ${changed.length} steps`;
  const was = old.find(({ id }) => id === first.id);
  if (!sameValue(was?.title, first.title))
    return first.title ? `Renamed a step “${first.title}”` : `Removed the name of ${quoted(after, first)}`;
  if (!sameValue(was?.layout, first.layout)) return `Changed the layout of ${quoted(after, first)}`;
  if (!sameValue([was?.gains, was?.envelopes], [first.gains, first.envelopes]))
    return `Changed the sound of ${quoted(after, first)}`;
  const [name, text] = [
    quoted(after, first),
    OTHERS.find(([key]) => !sameValue(was?.[key], first[key]))?.[1],
  ];
  return text ? `Changed ${text} ${name}` : `Changed ${name}`;
}

/** What else of a step may have changed, in words that go before its name. */
const OTHERS: [key: keyof Step, text: string][] = [
  ['speed', 'the speed of'],
  ['zooms', 'a zoom in'],
  ['covers', 'a cover in'],
  ['looks', 'the colours of'],
  ['entry', 'the transition into'],
  ['note', 'the note of'],
];

/** The one step that shows none of the takes that it showed before. */
function recordedAgain(before: Cut, after: Cut): Step | undefined {
  const changed = after.steps.filter((step, i) => !sameValue(step.pieces, before.steps[i]?.pieces));
  const [step] = changed;
  const was = before.steps.find(({ id }) => id === step?.id);
  if (!step || !was || changed.length > 1 || before.steps.length !== after.steps.length) return undefined;
  const shown = new Set(was.pieces.map(({ take }) => take));
  return step.pieces.some(({ take }) => shown.has(take)) ? undefined : step;
}

/** Under a second, tenths say more than a clock. */
const lengthText = (us: number) => (us < 1e6 ? `${(us / 1e6).toFixed(1)} s` : clockText(us));

function lengthChange(shorterUs: number): string | null {
  if (shorterUs > 0) return `Deleted ${lengthText(shorterUs)}`;
  return shorterUs < 0 ? `Added ${lengthText(-shorterUs)}` : null;
}
