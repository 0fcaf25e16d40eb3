import { createActor, type StateFrom } from 'xstate';
import { createStore } from 'zustand/vanilla';
import type { LessonId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { SourceState } from '@/core/findings/preflight';
import type { SoundTest } from '@/core/recording/sound-test';
import type { Rig } from '@/core/rig/rig';
import type { Arrangement } from '@/practice/desk/arrangement';
import { keepArrangement, keptArrangement } from '@/practice/kept-arrangement';
import { openPracticeDesk, type PracticeDesk } from '@/practice/practice-desk';
import { openRecorder, pageNowUs, type Recorder } from './engine';
import { RECORDED_ELSEWHERE, RECORDING_LOCK } from './journal';
import type { FromRecorder, MediaRole } from './messages';
import { ownEnd } from './own-end';
import { openPreview } from './preview/preview';
import { clocksNow } from './session-context';
import { sessionMachine } from './session-machine';
import { openSlots, type Slots } from './slots';
import { type KeptSounds, keepTest } from './sound-test/kept-tests';
import { otherMicrophones, testMicrophone } from './sound-test/test-microphone';
import { openReports } from './source-reports';
import { openTaking, type Taking } from './taking';

export type SourceStates = Partial<Record<MediaRole, SourceState>>;

/** A lesson's recording session in this page. Its sources stay open from set-up to recording. */
export type Session = ReturnType<typeof createSession>;

/** What pages show of a session: its sources as they are now, and where the windows of the practice displays stand. */
type Sharing = { states: SourceStates; arrangement: Arrangement };

/**
 * Keeps the sources that a rig names open and connected to a recorder, and runs the session's machine over them.
 * @param initial the rig to begin with; `setRig` follows its changes
 */
export function createSession(lessonId: LessonId, initial: Rig) {
  let rig = initial;
  let desk: PracticeDesk | null = null;
  const recorder = openRecorder();
  const store = createStore<Sharing>(() => ({ states: {}, arrangement: keptArrangement() }));
  const arrangement = () => store.getState().arrangement;
  const practiceDesk = () => {
    if (desk) return desk;
    desk = openPracticeDesk(() => slots.devicesChanged());
    desk.arrange(arrangement());
    return desk;
  };
  const slots = openSlots({
    recorder,
    rig: () => rig,
    isTaking: () => isRecording(actor.getSnapshot()),
    isMuted: () => actor.getSnapshot().context.muted,
    desk: practiceDesk,
    state: (role) => store.getState().states[role],
    setState: (role, state) => store.setState(({ states }) => ({ states: { ...states, [role]: state } })),
  });
  const context = () => actor.getSnapshot().context;
  const taking = openTaking({
    ...{ lessonId, recorder, slots, arrangement, context, rig: () => rig, desk: () => desk },
  });
  const actor = createActor(sessionMachine(taking.effects));
  recorder.listen(messageHandler({ actor, slots, taking, recorder, rig: () => rig }));
  actor.start();
  void slots.follow();
  navigator.mediaDevices?.addEventListener('devicechange', slots.devicesChanged);

  return {
    lessonId,
    actor,
    store,
    source: slots.source,
    /** Moves and resizes windows of the practice displays; they stay where they are put. */
    arrange: (next: Arrangement) => {
      keepArrangement(next);
      desk?.arrange(next);
      store.setState({ arrangement: next });
    },
    /** Marks this instant of the take: a stumble, or something to find again. */
    mark: () => recorder.event('mark', {}),
    /** Shows a picture source on a canvas; it stays the source's until it is closed. */
    preview: (role: 'screen' | 'camera', canvas: HTMLCanvasElement) =>
      openPreview(recorder, role, canvas, (keyMs) => {
        const state = slots.state(role);
        if (state?.state === 'open') slots.setState(role, { ...state, keyMs });
      }),
    /** Lends some of a picture source's pictures through a port, as they come. */
    sample: (role: 'screen' | 'camera', port: MessagePort) => recorder.sample(role, port),
    /** Hears the voice's microphone for some seconds, and others beside it; kept for this device. */
    testVoice: () => testVoice(slots, rig, practiceDesk),
    setRig: (next: Rig) => {
      rig = next;
      slots.followSoon();
    },
    /** Opens the browser's picker. Call it from a click. */
    shareScreen: slots.share,
    /** Tries a source that failed once more. */
    retry: slots.retry,
    close: () => {
      navigator.mediaDevices?.removeEventListener('devicechange', slots.devicesChanged);
      actor.stop();
      slots.close();
      desk?.close();
      recorder.close();
    },
  };
}

/** Whether the sources are being recorded, so that none may be exchanged. A rehearsal begins with what the rig says now. */
const isRecording = (state: StateFrom<ReturnType<typeof sessionMachine>>): boolean =>
  state.matches('taking') ||
  (state.context.rehearsing !== null && state.context.rehearsing.phase !== 'comparing');

async function testVoice(
  slots: Slots,
  rig: Rig,
  desk: () => PracticeDesk,
): Promise<{ test: SoundTest; sounds: KeptSounds }> {
  const [source, { voice }] = [slots.source('voice'), rig];
  if (!source || !voice)
    throw new ProblemError({
      code: 'no-device',
      message: 'There is no microphone to test.',
      hint: 'Choose one.',
    });
  const tested = await testMicrophone(source, rig, () => otherMicrophones(voice.source, desk()));
  await keepTest(voice.source, tested.test, tested.sounds);
  const state = slots.state('voice');
  if (state?.state === 'open') slots.setState('voice', { ...state, test: tested.test });
  return tested;
}

type Actor = {
  send: (
    event: Parameters<ReturnType<typeof createActor<ReturnType<typeof sessionMachine>>>['send']>[0],
  ) => void;
  getSnapshot: () => StateFrom<ReturnType<typeof sessionMachine>>;
};
type Handled = { actor: Actor; slots: Slots; taking: Taking; recorder: Recorder; rig: () => Rig };

/** What a session does about what its recorder tells. */
function messageHandler({ actor, slots, taking, recorder, rig }: Handled): (message: FromRecorder) => void {
  const report = openReports({
    source: slots.source,
    cameraSize: () => rig().camera?.size,
    state: slots.state,
    setState: slots.setState,
  });
  /** The refusal goes when whoever records has ended. */
  const awaitOthers = () =>
    navigator.locks
      .request(RECORDING_LOCK, () => undefined)
      .then(
        () => actor.send({ type: 'SOLVED', code: RECORDED_ELSEWHERE }),
        () => undefined,
      );
  const endByItself = (elapsedUs: number) => {
    const snapshot = actor.getSnapshot();
    // Figures come on while the files are closed: it ends once.
    if (!snapshot.matches('taking')) return;
    const end = ownEnd(elapsedUs, rig().limits, snapshot.context.stopAt, clocksNow());
    if (!end) return;
    recorder.event(end.kind, end.data, pageNowUs());
    actor.send({ type: 'STOP', because: end.because });
  };
  const ended = (role: MediaRole) => {
    slots.ended(role);
    actor.send({ type: 'SOURCE_ENDED', role });
  };
  return (message) => {
    if (message.type === 'ended') return ended(message.role);
    if (message.type === 'slept') return actor.send({ type: 'SLEPT' });
    if (message.type === 'problem') {
      actor.send({ type: 'PROBLEM', problem: message.problem, fatal: message.fatal });
      if (message.problem.code === RECORDED_ELSEWHERE) void awaitOthers();
    }
    if (message.type !== 'figures') return;
    actor.send({ type: 'FIGURES', figures: message.figures });
    report(message.figures);
    if (!message.figures.recording) return;
    taking.recordHand();
    endByItself(message.figures.elapsedUs);
  };
}
