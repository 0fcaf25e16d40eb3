'use client';

import { Col, Row, Segmented, Skeleton } from 'antd';
import { type ReactNode, useMemo, useState } from 'react';
import type { Size } from '@/core/base/sizes';
import { judgedFrames, WARM_UP_US } from '@/core/rehearsal/figures';
import { FATE_NAMES, type ShownFate, shownFate } from '@/core/rehearsal/frame-text';
import { budgetMs, type FrameMark, type RehearsalTrace, workMs } from '@/core/rehearsal/frame-trace';
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
  const whole = useTrace(of.id);
  const [track, setTrack] = useState<'screen' | 'camera'>('screen');
  const trace = useMemo(
    () => (track === 'camera' && whole?.camera ? { ...whole, ...whole.camera } : whole),
    [track, whole],
  );
  if (!trace) return <Skeleton active title={false} paragraph={{ rows: 6 }} style={{ marginTop: 14 }} />;
  const isCamera = trace !== whole;
  return (
    <TrackFrames
      key={track}
      of={isCamera ? null : of}
      trace={trace}
      // What can be watched is the screen's.
      film={isCamera ? null : film}
      size={isCamera ? (of.rig.camera?.size ?? null) : (of.encoder?.size ?? null)}
    >
      {(trace.camera?.frames.length ?? 0) > 0 && (
        <Segmented
          aria-label="Track"
          size="small"
          value={track}
          onChange={setTrack}
          options={[
            { value: 'screen', label: 'Screen' },
            { value: 'camera', label: 'Camera' },
          ]}
        />
      )}
    </TrackFrames>
  );
}

type TrackProps = {
  /** The rehearsal whose stages are told; only for the screen, which alone is judged. */
  of: RehearsalView | null;
  /** Whose frames are those of one picture track. */
  trace: RehearsalTrace;
  film: RehearsalFilm | null;
  size: Size | null;
  /** The choice of the track. */
  children: ReactNode;
};

/** The strip of one track, with what its marks mean and the selected frame. */
function TrackFrames({ of, trace, film, size, children }: TrackProps) {
  const frames = useMemo(() => framesOf(trace), [trace]);
  const [selected, setSelected] = useState<number | null>(null);
  const budget = budgetMs(trace);
  // The worst frame says most: it is selected until somebody selects another.
  const at = Math.min(selected ?? worst(frames), frames.length - 1);
  const held = trace.longTasks.length > 0 || trace.writes.some(({ ms }) => ms > budget);
  const counts = useMemo(() => countsOf(trace), [trace]);
  return (
    <Row gutter={22} style={{ marginTop: 12 }} wrap={false}>
      <Col flex="auto" className="grow">
        <FrameStrip trace={trace} frames={frames} selected={at} onSelect={setSelected} />
        {children}
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
        {of && <StageTimes of={of} />}
      </Col>
      <Col flex="292px">
        <FrameFacts frame={frames[at]} n={at} budget={budget} film={film} size={size} />
      </Col>
    </Row>
  );
}

/** How many frames of each fate there were after the warm-up. */
function countsOf(trace: RehearsalTrace): ReadonlyMap<ShownFate, number> {
  const counts = new Map<ShownFate, number>();
  for (const frame of judgedFrames(trace)) {
    const fate = shownFate(frame, budgetMs(trace));
    counts.set(fate, (counts.get(fate) ?? 0) + 1);
  }
  return counts;
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
