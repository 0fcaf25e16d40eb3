import { problemOf } from '@/core/base/problem';
import type { SourceState } from '@/core/findings/preflight';
import { fitted } from '@/core/layout/fit';
import type { Rig } from '@/core/rig/rig';
import type { PracticeDesk } from '@/practice/practice-desk';
import type { Known } from './attach-settings';
import { calibrate } from './calibrate';
import type { Recorder } from './engine';
import { knownOf } from './headroom';
import type { MediaRole } from './messages';
import { watchTab } from './own-tab';
import { openSlot, type Slot } from './slot';
import { wantedSource } from './source-keys';
import { type OpenSource, openCamera, openPractice, openScreen, openSoundDevice, orAnother } from './sources';

const ROLES: readonly MediaRole[] = ['screen', 'camera', 'voice', 'app-sound'];
/** A slider that is drawn along changes the rig at every step: the sources follow where it comes to rest. */
const REST_MS = 120;

type Options = {
  recorder: Recorder;
  rig: () => Rig;
  isTaking: () => boolean;
  isMuted: () => boolean;
  desk: () => PracticeDesk;
  state: (role: MediaRole) => SourceState | undefined;
  setState: (role: MediaRole, state: SourceState) => void;
};

/** The sources that a rig names, open and connected to a recorder: one slot for each role. */
export type Slots = {
  readonly source: (role: MediaRole) => OpenSource | null;
  readonly state: (role: MediaRole) => SourceState | undefined;
  readonly setState: (role: MediaRole, state: SourceState) => void;
  /** Opens, closes and reconnects until the sources are what the rig says, all roles at once. One run at a time. */
  readonly follow: () => Promise<void>;
  /** The same, when the rig has not changed for a moment. */
  readonly followSoon: () => void;
  /** The list of devices changed: one that failed may be there again. Also in the middle of a take, which it then joins again. */
  readonly devicesChanged: () => void;
  readonly retry: (role: MediaRole) => Promise<void>;
  /** Opens the browser's picker. Call it from a click. */
  readonly share: () => Promise<void>;
  readonly rearm: () => Promise<void>;
  readonly ended: (role: MediaRole) => void;
  readonly close: () => void;
};

export function openSlots(options: Options): Slots {
  const { recorder, rig, isTaking, state, setState } = options;

  const onConnected = (source: OpenSource) => {
    if (source.role === 'voice') recorder.mute('voice', options.isMuted());
    if (source.shared === 'tab') hearTab(source, recorder, state, setState);
    if (source.type !== 'video' || source.clock !== 'unknown') return;
    void calibrate(recorder, source.role, source.track).then((offsetUs) => {
      if (offsetUs !== undefined && slots[source.role].source() === source)
        recorder.setOffset(source.role, offsetUs);
    });
  };
  const slotOf = (role: MediaRole): Slot =>
    openSlot({
      ...{ role, recorder, rig, isTaking, onConnected },
      open: () => openWanted(role, rig(), options.desk),
      known: (source) => knownFor(source, rig()),
      state: () => state(role),
      setState: (next) => setState(role, next),
    });
  const slots: Record<MediaRole, Slot> = {
    screen: slotOf('screen'),
    camera: slotOf('camera'),
    voice: slotOf('voice'),
    'app-sound': slotOf('app-sound'),
  };

  let working: Promise<void> = Promise.resolve();
  let rest: ReturnType<typeof setTimeout> | undefined;
  const follow = () => {
    clearTimeout(rest);
    for (const role of ROLES) slots[role].release();
    working = working.then(async () => {
      await Promise.all(ROLES.map((role) => slots[role].follow()));
    });
    return working;
  };

  return {
    source: (role) => slots[role].source(),
    ...{ state, setState, follow },
    followSoon: () => {
      clearTimeout(rest);
      rest = setTimeout(follow, REST_MS);
    },
    devicesChanged: () => {
      for (const role of ROLES)
        if (state(role)?.state === 'failed' || state(role)?.insteadOf !== undefined) slots[role].forget();
      void follow();
    },
    retry: (role) => {
      slots[role].forget();
      return follow();
    },
    share: async () => {
      const { picture, appSound } = rig();
      if (picture.source.from !== 'screen') return;
      setState('screen', { state: 'opening' });
      try {
        const picked = await openScreen(picture.source.meant, picture, appSound?.source.from === 'screen');
        await working;
        for (const source of picked) await slots[source.role].put(source);
      } catch (error) {
        setState('screen', { state: 'failed', problem: problemOf(error) });
      }
    },
    rearm: async () => {
      for (const role of ROLES) await slots[role].rearm();
    },
    ended: (role) => slots[role].ended(),
    close: () => {
      clearTimeout(rest);
      for (const role of ROLES) slots[role].close();
    },
  };
}

/** Opens what a rig names for a role; null where it names nothing, or what only the user can pick. */
async function openWanted(role: MediaRole, rig: Rig, desk: () => PracticeDesk): Promise<OpenSource | null> {
  const source = wantedSource(rig, role);
  if (!source || source.from === 'screen') return null;
  if (source.from === 'practice') return openPractice(desk(), role, source.id, rig);
  if (role === 'camera') return orAnother(source, (device) => openCamera(device, rig));
  if (role === 'voice')
    return orAnother(source, (device) => openSoundDevice(role, device, rig.voice?.channels ?? 1));
  if (role === 'app-sound') return openSoundDevice(role, source, 2);
  return null;
}

/** What was measured here for the picture that a source will make. */
function knownFor(source: OpenSource, rig: Rig): Known {
  const { width, height } = source.track.getSettings();
  if (source.role !== 'screen' || !width || !height) return {};
  return knownOf(rig, fitted(rig.picture, { width, height }).size);
}

/** The pointer of a captured tab of the studio goes into the take, and a region may follow it. */
function hearTab(
  source: OpenSource,
  recorder: Recorder,
  state: Slots['state'],
  setState: Slots['setState'],
): void {
  const { close } = source;
  const leave = watchTab(source.track, recorder.event, (tellsPointer) => {
    const screen = state('screen');
    if (screen?.state === 'open') setState('screen', { ...screen, tellsPointer });
  });
  source.close = () => {
    leave();
    close();
  };
}
