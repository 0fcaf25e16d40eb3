'use client';

import { Button } from 'antd';
import { clockText } from '@/core/base/figures';
import type { LessonId } from '@/core/base/ids';
import type { Problem } from '@/core/base/problem';
import type { FrameRate } from '@/core/base/rational';
import { timecodeText } from '@/core/base/timecode';
import { Key } from '../keys/key';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';
import type { Range } from './range';

const seconds = (us: number) => (us / 1e6).toFixed(1);

/** The one sentence about the cut. */
export function EditVerdict(props: {
  lesson: LessonId;
  lengthUs: number;
  proposed: Range | null;
  selected: Range | null;
  /** Of the video, for its time codes. */
  rate: FrameRate;
  problem: Problem | null;
  failure: string | null;
  onTrim: () => void;
}) {
  const { lengthUs, proposed, selected, rate, problem, failure } = props;
  const selection =
    selected &&
    `Selection: ${timecodeText(selected.fromUs, rate)} to ${timecodeText(selected.toUs, rate)} (${seconds(selected.toUs - selected.fromUs)} s). Delete it or trim to it.`;
  if (problem)
    return (
      <Verdict kind="stop" sentence={`Not saved: ${problem.message}`} detail={problem.hint}>
        <Button type="primary" onClick={() => window.location.reload()}>
          Reload
        </Button>
      </Verdict>
    );
  if (failure) return <Verdict kind="stop" sentence={failure} detail="The recording itself is untouched." />;
  if (proposed) {
    const [head, tail] = [proposed.fromUs, lengthUs - proposed.toUs];
    const where =
      head > 0 && tail > 0
        ? `${seconds(head)} s before the first word and ${seconds(tail)} s after the last`
        : head > 0
          ? `${seconds(head)} s before the first word`
          : `${seconds(tail)} s after the last word`;
    return (
      <Verdict
        kind="good"
        sentence={`Nobody speaks for ${where}.`}
        detail={
          selection ??
          `The video will be ${clockText(proposed.toUs - proposed.fromUs)} long. The take is not changed.`
        }
      >
        <Button type="primary" onClick={props.onTrim}>
          Trim both ends <Key of="edit.trim" />
        </Button>
      </Verdict>
    );
  }
  return (
    <Verdict
      kind="good"
      sentence={`The video runs ${clockText(lengthUs)}.`}
      detail={
        selection ?? 'Mark in and out, then delete the selection or trim to it. The takes are not changed.'
      }
    >
      <ButtonLink type="primary" href={`/lessons/${props.lesson}/hand-over`}>
        Hand over
      </ButtonLink>
    </Verdict>
  );
}
