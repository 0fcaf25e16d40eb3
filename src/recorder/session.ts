import { createActor } from 'xstate';
import { createStore } from 'zustand/vanilla';
import { type LessonId, newTakeId } from '@/core/base/ids';
import { ProblemError, problemOf } from '@/core/base/problem';
import type { Size } from '@/core/base/sizes';
import { chooseCodec } from '@/core/encoding/encoder-speed';
import type { SourceState } from '@/core/findings/preflight';
import { fitted } from '@/core/layout/fit';
import { isSeenLoss } from '@/core/recording/frame-outcome';
import type { SoundTest } from '@/core/recording/sound-test';
import type { FrameLedger } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import type { Arrangement } from '@/practice/desk/arrangement';
import { keepArrangement, keptArrangement } from '@/practice/kept-arrangement';
import { openPracticeDesk, type PracticeDesk } from '@/practice/practice-desk';
import { calibrate } from './calibrate';
import { type DeskHand, openDeskHand } from './desk-hand';
import { type Known, openRecorder, pageNowUs } from './engine';
import { knownOf, rememberHint, rememberLoss } from './headroom';
import { RECORDED_ELSEWHERE, RECORDING_LOCK } from './journal';
import { machineFacts } from './machine';
import type { Figures, MediaRole, VideoFigures } from './messages';
import { ownEnd } from './own-end';
import { watchTab } from './own-tab';
import { openPreview } from './preview/preview';
import { sessionMachine } from './session-machine';
import { type KeptSounds, keepTest } from './sound-test/kept-tests';
import { otherMicrophones, testMicrophone } from './sound-test/test-microphone';
import { encodingKey, sourceKey, wantedSource } from './source-keys';
import { openReports, openState } from './source-reports';
import { type OpenSource, openCamera, openPractice, openScreen, openSoundDevice, orAnother } from './sources';
import { hurryUploader } from './uploader/uploader';

export type Sources = Partial<Record<MediaRole, OpenSource>>;
export type SourceStates = Partial<Record<MediaRole, SourceState>>;

/** A lesson's recording session in this page. Its sources stay open from set-up to recording. */
export type Session = ReturnType<typeof createSession>;

const STRAGGLERS_MS = 3000;
/** A picture that cannot be opened by then has its own message; until then nothing is recorded without it. */
const PICTURE_MS = 20_000;
/** A slider that is drawn along changes the rig at every step: the sources follow where it comes to rest. */
const REST_MS = 120;

const after = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const ROLES: readonly MediaRole[] = ['screen', 'camera', 'voice', 'app-sound'];

/** What pages show of a session: its sources as they are now, and where the windows of the practice displays stand. */
type Sharing = { states: SourceStates; arrangement: Arrangement };

/**
 * Keeps the sources that a rig names open and connected to a recorder, and runs the session's machine over them.
 * @param initial the rig to begin with; `setRig` follows its changes
 */
export function createSession(lessonId: LessonId, initial: Rig) {
  let rig = initial;
  const recorder = openRecorder();
  let desk: PracticeDesk | null = null;
  const sources: Sources = {};
  /** What each open source was opened for: opened again only when that changed. */
  const keys = new Map<MediaRole, string>();
  const store = createStore<Sharing>(() => ({ states: {}, arrangement: keptArrangement() }));
  const states = () => store.getState().states;
  let deskHand: DeskHand | null = null;
  let closed = false;

  const setState = (role: MediaRole, state: SourceState) => {
    store.setState({ states: { ...states(), [role]: state } });
  };

  /** The list of devices changed: one that failed may be there again. Also in the middle of a take, which it then joins again. */
  const onDevices = () => {
    for (const role of ROLES)
      if (states()[role]?.state === 'failed' || states()[role]?.insteadOf !== undefined) keys.delete(role);
    void follow();
  };

  const practiceDesk = () => {
    if (!desk) {
      desk = openPracticeDesk(onDevices);
      desk.arrange(store.getState().arrangement);
    }
    return desk;
  };

  const wanted = (role: MediaRole) => wantedSource(rig, role);
  const keyOf = (role: MediaRole) => sourceKey(rig, role);
  const settingsKey = (role: MediaRole) => encodingKey(rig, role);

  const open = async (role: MediaRole): Promise<OpenSource | null> => {
    const source = wanted(role);
    if (!source || source.from === 'screen') return null;
    if (source.from === 'practice') return openPractice(practiceDesk(), role, source.id, rig);
    if (role === 'camera') return orAnother(source, (device) => openCamera(device, rig));
    if (role === 'voice')
      return orAnother(source, (device) => openSoundDevice(role, device, rig.voice?.channels ?? 1));
    if (role === 'app-sound') return openSoundDevice(role, source, 2);
    return null;
  };

  /** What was measured here for the picture that this source will make. */
  const known = (source: OpenSource): Known => {
    const { width, height } = source.track.getSettings();
    if (source.role !== 'screen' || !width || !height) return {};
    const size = { width, height };
    return knownOf(rig, fitted(rig.picture, size).size);
  };

  const connect = async (source: OpenSource) => {
    await recorder.attach(source, rig, known(source));
    sources[source.role] = source;
    if (source.role === 'voice') recorder.mute('voice', actor.getSnapshot().context.muted);
    setState(source.role, openState(source, rig));
    if (source.shared === 'tab') hearTab(source);
    if (source.type === 'video' && source.clock === 'unknown')
      void calibrate(recorder, source.role, source.track).then((offsetUs) => {
        if (offsetUs !== undefined && sources[source.role] === source)
          recorder.setOffset(source.role, offsetUs);
      });
  };

  /** The pointer of a captured tab of the studio goes into the take, and a region may follow it. */
  const hearTab = (source: OpenSource) => {
    const { close } = source;
    const leave = watchTab(source.track, recorder.event, (tellsPointer) => {
      const { screen } = states();
      if (screen?.state === 'open') setState('screen', { ...screen, tellsPointer });
    });
    source.close = () => {
      leave();
      close();
    };
  };

  const disconnect = (role: MediaRole) => {
    const source = sources[role];
    if (!source) return;
    recorder.detach(role);
    source.close();
    delete sources[role];
    setState(role, { state: 'absent' });
  };

  let working: Promise<void> = Promise.resolve();
  const connected = new Map<MediaRole, string>();

  /** Lets go of what the rig does not name any more, at once: what is opened meanwhile may take long, and none of it may get into a take. */
  const releaseUnusedSources = () => {
    if (closed || actor.getSnapshot().matches('taking')) return;
    for (const role of ROLES) {
      if (keys.get(role) === keyOf(role)) continue;
      if (sources[role]) {
        keys.delete(role);
        disconnect(role);
      }
      // Said of all at once, so that nobody takes one that waits its turn for one that is not wanted.
      if (keyOf(role) !== '' && !states()[role]?.problem && wanted(role)?.from !== 'screen')
        setState(role, { state: 'opening' });
    }
  };

  let rest: ReturnType<typeof setTimeout> | undefined;

  /** Opens, closes and reconnects until the sources are what the rig says, all roles at once. One run at a time. */
  const follow = () => {
    clearTimeout(rest);
    releaseUnusedSources();
    working = working.then(async () => {
      await Promise.all(ROLES.map(followRole));
    });
    return working;
  };

  const followRole = async (role: MediaRole): Promise<void> => {
    if (closed) return;
    const [key, settings] = [keyOf(role), settingsKey(role)];
    const source = sources[role];
    // A take keeps the sources it has; one that comes late joins it.
    if (source && actor.getSnapshot().matches('taking')) return;
    if (keys.get(role) === key && (connected.get(role) === settings || !source)) return;
    const before = states()[role];
    try {
      if (source && keys.get(role) === key) {
        recorder.detach(role);
        await recorder.attach(source, rig, known(source));
      } else {
        keys.set(role, key);
        disconnect(role);
        if (key === '') return;
        // Only a click may open the browser's picker; until then there is nothing.
        if (wanted(role)?.from === 'screen') return setState(role, { state: 'absent' });
        setState(role, { state: 'opening' });
        const opened = await open(role);
        // Nobody wants it any more, or another one: what was changed while it was being opened comes next.
        if (opened && (closed || keyOf(role) !== key)) {
          opened.close();
          keys.delete(role);
          return setState(role, { state: 'absent' });
        }
        if (opened) await connect(opened);
      }
      connected.set(role, settings);
    } catch (error) {
      // One that went and is still away: what was said when it went says more than that it cannot be opened.
      const said = before?.state === 'failed' && before.problem?.code === 'source-ended' && before.problem;
      setState(role, { state: 'failed', problem: said || problemOf(error) });
    }
  };

  const actor = createActor(
    sessionMachine({
      start: async () => {
        // No track waits for another: a source that is still opening after this joins the take when it comes.
        const settled = follow();
        await Promise.race([settled, after(STRAGGLERS_MS)]);
        if (states().screen?.state === 'opening') await Promise.race([settled, after(PICTURE_MS)]);
        if (!sources.screen && rig.picture.source.from !== 'none')
          throw new ProblemError(
            states().screen?.state === 'opening'
              ? {
                  code: 'no-picture',
                  message: 'The source is still opening.',
                  hint: 'Wait until the picture appears.',
                }
              : {
                  code: 'no-picture',
                  message: 'There is no source.',
                  hint: 'Choose a source in Set up.',
                },
          );
        const id = newTakeId();
        const startedAt = new Date().toISOString();
        recorder.mute('voice', actor.getSnapshot().context.muted);
        // The practice desk begins its script with the take, so that every take shows the same minute and nothing from before it.
        const cueUs = await desk?.cue();
        await recorder.start({ id, lessonId, rig, startedAt, ...machineFacts() });
        deskHand =
          cueUs === undefined
            ? null
            : openDeskHand(recorder, rig.picture.source, store.getState().arrangement, cueUs);
        const { scheduled, startAtMs } = actor.getSnapshot().context;
        if (scheduled) recorder.event('schedule', { lateMs: Date.now() - startAtMs }, pageNowUs());
        return id;
      },
      pause: () => recorder.pause(),
      resume: () => recorder.resume(),
      mute: (muted) => recorder.mute('voice', muted),
      stop: async () => {
        deskHand?.();
        const screen = actor.getSnapshot().context.figures?.video.screen;
        const end = await recorder.stop();
        if (screen?.picture) rememberEncoding(screen, screen.picture, end.ledger.screen);
        hurryUploader();
        return end;
      },
      discard: () => recorder.discard(),
      rearm: async () => {
        for (const source of Object.values(sources)) await recorder.attach(source, rig, known(source));
      },
    }),
  );

  /** What the take has shown of its encoder counts for the next one. */
  const rememberEncoding = (
    { textHint, encoded, encodeP95Ms }: VideoFigures,
    picture: Size,
    ledger: FrameLedger | undefined,
  ) => {
    const { codec } = chooseCodec(rig.picture, knownOf(rig, picture).speeds ?? []);
    if (textHint) rememberHint(codec, picture, encoded, encodeP95Ms);
    // What the source lost says nothing of the encoder.
    if (ledger && isSeenLoss(ledger.dropped, ledger.arrived))
      rememberLoss(codec, textHint ?? false, picture, ledger);
  };

  const endByItself = ({ elapsedUs }: Figures) => {
    // Figures come on while the files are closed: it ends once.
    if (!actor.getSnapshot().matches('taking')) return;
    const end = ownEnd(elapsedUs, rig.limits, actor.getSnapshot().context.stopAtMs, Date.now());
    if (!end) return;
    recorder.event(end.kind, end.data, pageNowUs());
    actor.send({ type: 'STOP', because: end.because });
  };

  /** The refusal goes when whoever records has ended. */
  const awaitOthers = () =>
    navigator.locks
      .request(RECORDING_LOCK, () => undefined)
      .then(
        () => actor.send({ type: 'SOLVED', code: RECORDED_ELSEWHERE }),
        () => undefined,
      );

  const report = openReports({
    sources,
    cameraSize: () => rig.camera?.size,
    state: (role) => states()[role],
    setState,
  });

  recorder.listen((message) => {
    if (message.type === 'figures') {
      actor.send({ type: 'FIGURES', figures: message.figures });
      report(message.figures);
      if (message.figures.recording) {
        deskHand?.();
        endByItself(message.figures);
      }
    } else if (message.type === 'problem') {
      actor.send({ type: 'PROBLEM', problem: message.problem, fatal: message.fatal });
      if (message.problem.code === RECORDED_ELSEWHERE) awaitOthers();
    } else if (message.type === 'ended') {
      sources[message.role]?.close();
      delete sources[message.role];
      keys.delete(message.role);
      setState(message.role, {
        state: 'failed',
        problem: {
          code: 'source-ended',
          message: 'The source ended.',
          hint:
            message.role === 'screen'
              ? 'Share it again.'
              : 'The other tracks continue. Connected again, it joins the take automatically.',
        },
      });
      actor.send({ type: 'SOURCE_ENDED', role: message.role });
    }
  });
  actor.start();
  void follow();
  navigator.mediaDevices?.addEventListener('devicechange', onDevices);

  return {
    lessonId,
    actor,
    sources: () => sources,
    store,
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
        const state = states()[role];
        if (state?.state === 'open') setState(role, { ...state, keyMs });
      }),
    /** Lends some of a picture source's pictures through a port, as they come. */
    sample: (role: 'screen' | 'camera', port: MessagePort) => recorder.sample(role, port),
    /** Hears the voice's microphone for some seconds, and others beside it; kept for this device. */
    testVoice: async (): Promise<{ test: SoundTest; sounds: KeptSounds }> => {
      const [source, voice] = [sources.voice, rig.voice];
      if (!source || !voice)
        throw new ProblemError({
          code: 'no-device',
          message: 'There is no microphone to test.',
          hint: 'Choose one.',
        });
      const tested = await testMicrophone(source, rig, () => otherMicrophones(voice.source, practiceDesk()));
      await keepTest(voice.source, tested.test, tested.sounds);
      const state = states().voice;
      if (state?.state === 'open') setState('voice', { ...state, test: tested.test });
      return tested;
    },
    setRig: (next: Rig) => {
      rig = next;
      clearTimeout(rest);
      rest = setTimeout(follow, REST_MS);
    },
    /** Opens the browser's picker. Call it from a click. */
    shareScreen: async (): Promise<void> => {
      const source = rig.picture.source;
      if (source.from !== 'screen') return;
      setState('screen', { state: 'opening' });
      try {
        const opened = await openScreen(source.meant, rig.picture, rig.appSound?.source.from === 'screen');
        await working;
        for (const each of opened) {
          if (sources[each.role]) disconnect(each.role);
          keys.set(each.role, keyOf(each.role));
          await connect(each);
          connected.set(each.role, settingsKey(each.role));
        }
      } catch (error) {
        setState('screen', { state: 'failed', problem: problemOf(error) });
      }
    },
    /** Tries a source that failed once more. */
    retry: (role: MediaRole) => {
      keys.delete(role);
      return follow();
    },
    close: () => {
      closed = true;
      clearTimeout(rest);
      navigator.mediaDevices?.removeEventListener('devicechange', onDevices);
      actor.stop();
      for (const source of Object.values(sources)) source.close();
      desk?.close();
      recorder.close();
    },
  };
}
