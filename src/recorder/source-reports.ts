import type { Heard } from '@/core/audio/sound-heard';
import { sameValue } from '@/core/base/same-value';
import type { Size } from '@/core/base/sizes';
import type { SourceState } from '@/core/findings/preflight';
import type { Rig } from '@/core/rig/rig';
import type { Figures, MediaRole } from './messages';
import { keptTest } from './sound-test/kept-tests';
import { watchSource } from './source-watch';
import { givenBy, mostOf, type OpenSource } from './sources';

/** Sound measurements update the findings now and then: nobody reads a sentence that changes four times per second. */
const HEARD_EVERY_MS = 2000;

type Reported = {
  source: (role: MediaRole) => OpenSource | null;
  /** What the rig asks of the camera. */
  cameraSize: () => Size | undefined;
  state: (role: MediaRole) => SourceState | undefined;
  setState: (role: MediaRole, state: SourceState) => void;
};

/** What can be said of a source that has just been opened. */
export function openState(source: OpenSource, rig: Rig): SourceState {
  const { width, height } = source.track.getSettings();
  return {
    state: 'open',
    remark: source.remark,
    insteadOf: source.insteadOf,
    shared: source.shared,
    label: source.label,
    size: width && height ? { width, height } : undefined,
    most: mostOf(source),
    gives: source.type === 'audio' ? givenBy(source) : undefined,
    test: source.role === 'voice' && rig.voice ? keptTest(rig.voice.source) : undefined,
  };
}

/** Puts what the recorder's figures say of open sources into their states, where findings look for it. */
export function openReports({ source, cameraSize, state, setState }: Reported): (figures: Figures) => void {
  const watches = new Map<MediaRole, { of: OpenSource; watch: ReturnType<typeof watchSource> }>();
  let heardAtMs = 0;

  /** What a source really gives, for as long as it is open. */
  const watchOf = (role: MediaRole, of: OpenSource) => {
    let own = watches.get(role);
    if (own?.of !== of) own = { of, watch: watchSource() };
    watches.set(role, own);
    return own.watch;
  };
  const add = (role: MediaRole, seen: Partial<SourceState> | undefined) => {
    const before = state(role);
    if (seen && before?.state === 'open' && !sameValue({ ...before, ...seen }, before))
      setState(role, { ...before, ...seen });
  };

  return ({ levels, heard, video }) => {
    const nowMs = performance.now();
    if (nowMs - heardAtMs >= HEARD_EVERY_MS) {
      heardAtMs = nowMs;
      for (const [role, what] of Object.entries(heard) as ['voice' | 'app-sound', Heard][])
        add(role, { heard: what });
    }
    // A window that is resized while it is captured.
    const { screen, camera } = video;
    add('screen', { size: screen?.source ?? state('screen')?.size, region: screen?.region ?? undefined });
    const [voice, seen] = [source('voice'), source('camera')];
    if (voice && levels.voice !== undefined) add('voice', watchOf('voice', voice).sound(levels.voice, nowMs));
    const asked = cameraSize();
    if (seen && camera && asked)
      add('camera', {
        ...watchOf('camera', seen).camera(camera, asked, nowMs),
        size: camera.source ?? state('camera')?.size,
      });
  };
}
