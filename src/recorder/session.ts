import { createActor } from 'xstate';
import { chooseCodec } from '@/core/encoder-speed';
import { fitted } from '@/core/fit';
import { type LessonId, newTakeId } from '@/core/ids';
import type { SourceState } from '@/core/preflight';
import { ProblemError, problemOf } from '@/core/problem';
import type { Rig } from '@/core/rig';
import { roomText } from '@/core/room';
import { wallTimeText } from '@/core/schedule';
import type { SoundTest } from '@/core/sound-test';
import type { Arrangement } from '@/practice/desk/arrangement';
import { keepArrangement, keptArrangement } from '@/practice/kept-arrangement';
import { openPracticeDesk, type PracticeDesk } from '@/practice/practice-desk';
import { calibrate } from './calibrate';
import { type DeskHand, openDeskHand } from './desk-hand';
import { type Known, openRecorder, pageNowUs } from './engine';
import { knownOf, rememberHint } from './headroom';
import { machineFacts } from './machine';
import type { Figures, MediaRole } from './messages';
import { watchTab } from './own-tab';
import { openPreview } from './preview/preview';
import { sessionMachine } from './session-machine';
import { type KeptSounds, keepTest, keptTest } from './sound-test/kept-tests';
import { otherMicrophones, testMicrophone } from './sound-test/test-microphone';
import { encodingKey, sourceKey, wantedSource } from './source-keys';
import { openReports } from './source-reports';
import {
  givenBy,
  mostOf,
  type OpenSource,
  openCamera,
  openPractice,
  openScreen,
  openSoundDevice,
  orAnother,
} from './sources';
import { hurryUploader } from './uploader/uploader';

export type Sources = Partial<Record<MediaRole, OpenSource>>;
export type SourceStates = Partial<Record<MediaRole, SourceState>>;

/** A lesson's recording session in this page. Its sources stay open from set-up to recording. */
export type Session = ReturnType<typeof createSession>;

const STRAGGLERS_MS = 3000;
const ROLES: readonly MediaRole[] = ['screen', 'camera', 'voice', 'app-sound'];

/**
 * Keeps the sources that a rig names open and connected to a recorder, and runs the session's machine over them.
 * @param initial the rig to begin with; `setRig` follows its changes
 */
export function createSession(lessonId: LessonId, initial: Rig) {
  let rig = initial;
  const recorder = openRecorder();
  let desk: PracticeDesk | null = null;
  const sources: Sources = {};
  let states: SourceStates = {};
  /** What each open source was opened for: opened again only when that changed. */
  const keys = new Map<MediaRole, string>();
  let arrangement = keptArrangement();
  const listeners = new Set<() => void>();
  let deskHand: DeskHand | null = null;
  let closed = false;

  const setState = (role: MediaRole, state: SourceState) => {
    states = { ...states, [role]: state };
    for (const listener of listeners) listener();
  };

  /** Devices went or came: one that failed may be there again. Also in the middle of a take, which it then joins anew. */
  const onDevices = () => {
    for (const role of ROLES)
      if (states[role]?.state === 'failed' || states[role]?.insteadOf !== undefined) keys.delete(role);
    void follow();
  };

  const practiceDesk = () => {
    if (!desk) {
      desk = openPracticeDesk(onDevices);
      desk.arrange(arrangement);
    }
    return desk;
  };

  const wanted = (role: MediaRole) => wantedSource(rig, role);
  const keyOf = (role: MediaRole) => sourceKey(rig, role);
  const wishKey = (role: MediaRole) => encodingKey(rig, role);

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
    const { width, height } = source.track.getSettings();
    setState(source.role, {
      state: 'open',
      remark: source.remark,
      insteadOf: source.insteadOf,
      came: source.came,
      label: source.label,
      size: width && height ? { width, height } : undefined,
      most: mostOf(source),
      gives: source.type === 'audio' ? givenBy(source.track) : undefined,
      test: source.role === 'voice' && rig.voice ? keptTest(rig.voice.source) : undefined,
    });
    if (source.came === 'tab') hearTab(source);
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
      if (states.screen?.state === 'open') setState('screen', { ...states.screen, tellsPointer });
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

  /** Opens, closes and reconnects until the sources are what the rig says. Runs one at a time. */
  const follow = () => {
    working = working.then(async () => {
      // Said of all at once, so that nobody takes one that waits its turn for one that is not wanted.
      for (const role of ROLES) {
        const fresh = keyOf(role) !== '' && keys.get(role) !== keyOf(role) && !states[role]?.problem;
        if (fresh && !closed && wanted(role)?.from !== 'screen') setState(role, { state: 'opening' });
      }
      for (const role of ROLES) {
        if (closed) return;
        const [key, wish] = [keyOf(role), wishKey(role)];
        const source = sources[role];
        // A take keeps the sources it has; one that comes late joins it.
        if (source && actor.getSnapshot().matches('taking')) continue;
        if (keys.get(role) === key && (connected.get(role) === wish || !source)) continue;
        const before = states[role];
        try {
          if (source && keys.get(role) === key) {
            recorder.detach(role);
            await recorder.attach(source, rig, known(source));
          } else {
            keys.set(role, key);
            disconnect(role);
            if (key === '') continue;
            // Only a click may open the browser's picker; until then there is nothing.
            if (wanted(role)?.from === 'screen') {
              setState(role, { state: 'absent' });
              continue;
            }
            setState(role, { state: 'opening' });
            const opened = await open(role);
            // Nobody wants it any more, or another one: what was changed while it was being opened comes next.
            if (opened && keyOf(role) !== key) {
              opened.close();
              keys.delete(role);
              setState(role, { state: 'absent' });
              continue;
            }
            if (opened) await connect(opened);
          }
          connected.set(role, wish);
        } catch (error) {
          // One that went and is still away: what was said when it went says more than that it cannot be opened.
          const said =
            before?.state === 'failed' && before.problem?.code === 'source-ended' && before.problem;
          setState(role, { state: 'failed', problem: said || problemOf(error) });
        }
      }
    });
    return working;
  };

  const actor = createActor(
    sessionMachine({
      start: async () => {
        // No track waits for another: a source that is still opening after this joins the take when it comes.
        await Promise.race([working, new Promise((done) => setTimeout(done, STRAGGLERS_MS))]);
        if (!sources.screen && rig.picture.source.from !== 'none')
          throw new ProblemError({
            code: 'no-picture',
            message: 'Nothing is aimed at.',
            hint: 'Choose what is shown in Set up.',
          });
        const id = newTakeId();
        const startedAt = new Date().toISOString();
        recorder.mute('voice', actor.getSnapshot().context.muted);
        await recorder.start({ id, lessonId, rig, startedAt, ...machineFacts() });
        // The practice desk begins its script with the take, so that every take shows the same minute.
        deskHand = desk && openDeskHand(recorder, rig.picture.source, arrangement, await desk.cue());
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
        if (screen?.textHint && screen.picture)
          rememberHint(
            chooseCodec(rig.picture, knownOf(rig, screen.picture).speeds ?? []).codec,
            screen.picture,
            screen.encoded,
            screen.encodeP95Ms,
          );
        const end = await recorder.stop();
        hurryUploader();
        return end;
      },
      discard: () => recorder.discard(),
      rearm: async () => {
        for (const source of Object.values(sources)) await recorder.attach(source, rig, known(source));
      },
    }),
  );

  /** A take that has reached its limit, or the time of day at which it ends. Its film is cut at the limit to the picture. */
  const endByItself = ({ elapsedUs }: Figures) => {
    // Figures come on while the files are closed: it ends once.
    if (!actor.getSnapshot().matches('taking')) return;
    const { lengthS } = rig.limits;
    const { stopAtMs } = actor.getSnapshot().context;
    if (lengthS !== null && elapsedUs >= lengthS * 1e6) {
      recorder.event('limit', { lengthS }, pageNowUs());
      actor.send({
        type: 'STOP',
        because: `The take has reached its limit of ${roomText({ seconds: lengthS })}.`,
      });
    } else if (stopAtMs !== null && Date.now() >= stopAtMs) {
      recorder.event('schedule', { stopped: wallTimeText(stopAtMs) }, pageNowUs());
      actor.send({
        type: 'STOP',
        because: `It is ${wallTimeText(stopAtMs)}: the take ends as it was scheduled.`,
      });
    }
  };

  const report = openReports({
    sources,
    cameraSize: () => rig.camera?.size,
    state: (role) => states[role],
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
    } else if (message.type === 'problem')
      actor.send({ type: 'PROBLEM', problem: message.problem, fatal: message.fatal });
    else if (message.type === 'ended') {
      sources[message.role]?.close();
      delete sources[message.role];
      keys.delete(message.role);
      setState(message.role, {
        state: 'failed',
        problem: {
          code: 'source-ended',
          message: 'It gives nothing any more.',
          hint:
            message.role === 'screen'
              ? 'Share it again.'
              : 'The rest is recorded on. Plugged in again, it joins by itself.',
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
    subscribe: (listener: () => void) => {
      listeners.add(listener);
      return () => {
        listeners.delete(listener);
      };
    },
    states: () => states,
    arrangement: () => arrangement,
    /** Moves and resizes windows of the practice displays; they stay where they are put. */
    arrange: (next: Arrangement) => {
      arrangement = next;
      keepArrangement(next);
      desk?.arrange(next);
      for (const listener of listeners) listener();
    },
    /** Marks this instant of the take: a stumble, or something to find again. */
    mark: () => recorder.event('mark', {}),
    /** Shows a picture source on a canvas; it stays the source's until it is closed. */
    preview: (role: 'screen' | 'camera', canvas: HTMLCanvasElement) =>
      openPreview(recorder, role, canvas, (keyMs) => {
        const state = states[role];
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
      const state = states.voice;
      if (state?.state === 'open') setState('voice', { ...state, test: tested.test });
      return tested;
    },
    setRig: (next: Rig) => {
      rig = next;
      return follow();
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
          connected.set(each.role, wishKey(each.role));
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
      navigator.mediaDevices?.removeEventListener('devicechange', onDevices);
      actor.stop();
      for (const source of Object.values(sources)) source.close();
      desk?.close();
      recorder.close();
    },
  };
}
