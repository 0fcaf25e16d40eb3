'use client';

import { Col, Row, Skeleton } from 'antd';
import { useMemo, useState } from 'react';
import { judgedFrames, WARM_UP_US } from '@/core/rehearsal/figures';
import { FATE_NAMES, type ShownFate, shownFate } from '@/core/rehearsal/frame-text';
import { budgetMs, type FrameMark, workMs } from '@/core/rehearsal/frame-trace';
import { framesOf } from '@/core/rehearsal/frames-of';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import type { RehearsalFilm } from '@/recorder/rehearsal/rehearse';
import { useTrace } from '../lesson/use-rehearsals';
import { FateSign } from './fate-sign';
import { FrameFacts } from './frame-facts';
import { FrameStrip } from './frame-strip';
import { StageTimes } from './stage-times';

/** Every frame of a rehearsal, and the one that is selected. @param film the recording, while it is still there */
export function RehearsalFrames({ of, film }: { of: RehearsalView; film: RehearsalFilm | null }) {
  const trace = useTrace(of.id);
  const frames = useMemo(() => (trace ? framesOf(trace) : []), [trace]);
  const [selected, setSelected] = useState<number | null>(null);
  if (!trace) return <Skeleton active title={false} paragraph={{ rows: 6 }} style={{ marginTop: 14 }} />;
  const budget = budgetMs(trace);
  // The worst frame says most: it is selected until somebody selects another.
  const at = Math.min(selected ?? worst(frames), frames.length - 1);
  const held = trace.longTasks.length > 0 || trace.writes.some(({ ms }) => ms > budget);
  const counts = new Map<ShownFate, number>();
  for (const frame of judgedFrames(trace)) {
    const fate = shownFate(frame, budget);
    counts.set(fate, (counts.get(fate) ?? 0) + 1);
  }
  return (
    <Row gutter={22} style={{ marginTop: 12 }} wrap={false}>
      <Col flex="auto" className="grow">
        <FrameStrip trace={trace} frames={frames} selected={at} onSelect={setSelected} />
        <ul className="row fate-key small mute" aria-label="Fates of the frames">
          {(Object.keys(FATE_NAMES) as ShownFate[]).map((fate) =>
            counts.has(fate) || fate === 'on-time' || fate === 'dropped' ? (
              <li key={fate}>
                <FateSign fate={fate} /> {FATE_NAMES[fate]}: <b className="fig">{counts.get(fate) ?? 0}</b>
              </li>
            ) : null,
          )}
        </ul>
        {held && (
          <p className="small mute">Shaded: a write to the disk, or the page itself, held the recorder up.</p>
        )}
        <StageTimes of={of} />
      </Col>
      <Col flex="292px">
        <FrameFacts frame={frames[at]} n={at} budget={budget} film={film} size={of.encoder?.size ?? null} />
      </Col>
    </Row>
  );
}

const isJudged = ({ tUs, fate }: FrameMark): boolean => tUs > WARM_UP_US && fate === 'recorded';

/** The first frame that is lost after the warm-up, or else the one that took longest. */
function worst(frames: readonly FrameMark[]): number {
  const lost = frames.findIndex(
    ({ fate, tUs }) => tUs > WARM_UP_US && (fate === 'dropped' || fate === 'missed'),
  );
  if (lost >= 0) return lost;
  const longest = Math.max(...frames.map((frame) => (isJudged(frame) ? workMs(frame) : 0)));
  return Math.max(
    0,
    frames.findIndex((frame) => isJudged(frame) && workMs(frame) === longest),
  );
}
