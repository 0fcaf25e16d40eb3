import { newLessonId } from '@/core/base/ids';
import { summaryOf } from '@/core/rehearsal/rehearsal';
import { Rig } from '@/core/rig/rig';
import { FAULT_CHANNEL, type FaultOrder } from '@/practice/faults';
import { openPracticeDesk } from '@/practice/practice-desk';
import { openRecorder } from '@/recorder/engine';
import { rehearse } from '@/recorder/rehearsal/rehearse';
import { openPractice } from '@/recorder/sources';
import { RECORDER_FAULT_CHANNEL, type RecorderSlowOrder } from '@/recorder/worker/ordered-faults';

/** A rehearsal with a fault in it, to see whether the fault is named. */
export type DiagnosisCase = {
  rig: unknown;
  seconds: number;
  source?: FaultOrder['fault'];
  slow?: Pick<RecorderSlowOrder, 'slow' | 'ms'>;
};

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Rehearses the screen of a rig with a fault in it. @returns what the ledger would say */
export async function diagnoseCase({ rig: input, seconds, source, slow }: DiagnosisCase) {
  const rig = Rig.parse(input);
  const { picture } = rig;
  if (picture.source.from !== 'practice') throw new Error('A case needs a practice source.');
  const [desk, recorder] = [openPracticeDesk(), openRecorder()];
  const devices = new BroadcastChannel(FAULT_CHANNEL);
  const parts = new BroadcastChannel(RECORDER_FAULT_CHANNEL);
  const device = picture.source.id as FaultOrder['device'];
  const order = (ms: number) =>
    slow && parts.postMessage({ role: 'screen', slow: slow.slow, ms } satisfies RecorderSlowOrder);
  try {
    const screen = await openPractice(desk, 'screen', picture.source.id, rig);
    await recorder.attach(screen, rig);
    if (source) devices.postMessage({ device, fault: source } satisfies FaultOrder);
    await sleep(400);
    if (slow) order(slow.ms);
    const { report } = await rehearse({
      ...{ recorder, rig, lengthS: seconds, compareMs: 0, lessonId: newLessonId() },
      desk: () => desk,
      signal: new AbortController().signal,
      onProgress: () => undefined,
    });
    screen.close();
    return summaryOf(report);
  } finally {
    order(0);
    if (source) devices.postMessage({ device, fault: null } satisfies FaultOrder);
    await sleep(50);
    devices.close();
    parts.close();
    desk.close();
    recorder.close();
  }
}
