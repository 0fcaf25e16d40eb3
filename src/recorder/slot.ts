import { problemOf } from '@/core/base/problem';
import type { SourceState } from '@/core/findings/preflight';
import type { Rig } from '@/core/rig/rig';
import type { Known } from './attach-settings';
import type { Recorder } from './engine';
import type { MediaRole } from './messages';
import { encodingKey, sourceKey, wantedSource } from './source-keys';
import { openState } from './source-reports';
import type { OpenSource } from './sources';

/** The place of one role: it owns its source, what is known of it, and its connection to the recorder. */
export type Slot = {
  readonly source: () => OpenSource | null;
  /** Lets go of what the rig does not name any more, at once: what is opened meanwhile may take long, and none of it may get into a take. */
  readonly release: () => void;
  /** Opens, closes and connects until the source is what the rig says. */
  readonly follow: () => Promise<void>;
  /** Takes a source that the user has picked. */
  readonly put: (picked: OpenSource) => Promise<void>;
  /** Connects the source that is open for the next take. */
  readonly rearm: () => Promise<void>;
  /** The next `follow` tries again what has failed. */
  readonly forget: () => void;
  /** The source has ended: unplugged, or no longer shared. */
  readonly ended: () => void;
  readonly close: () => void;
};

type Options = {
  role: MediaRole;
  recorder: Pick<Recorder, 'attach' | 'detach'>;
  rig: () => Rig;
  /** A take keeps the sources it has. */
  isTaking: () => boolean;
  /** Opens what the rig names; null where only the user can. */
  open: () => Promise<OpenSource | null>;
  /** What was measured here for the picture that this source will make. */
  known: (source: OpenSource) => Known;
  state: () => SourceState | undefined;
  setState: (state: SourceState) => void;
  onConnected: (source: OpenSource) => void;
};

const ENDED = 'source-ended';

/** The source that is open, and its connection to the recorder. */
function openConnection({ role, recorder, rig, known, setState, onConnected }: Options) {
  let source: OpenSource | null = null;
  const attach = (of: OpenSource) => recorder.attach(of, rig(), known(of));
  return {
    source: () => source,
    connect: async (opened: OpenSource) => {
      await attach(opened);
      source = opened;
      setState(openState(opened, rig()));
      onConnected(opened);
    },
    /** Reconnects the same source, for another encoding or another take. */
    again: async () => {
      if (source) await attach(source);
    },
    disconnect: () => {
      if (!source) return;
      recorder.detach(role);
      source.close();
      source = null;
      setState({ state: 'absent' });
    },
    /** The source has ended; the recorder knows already. */
    gone: () => {
      source?.close();
      source = null;
    },
  };
}

export function openSlot(options: Options): Slot {
  const { role, recorder, rig, setState } = options;
  const { source, connect, again, disconnect, gone } = openConnection(options);
  /** What the open source was opened for: opened again only when that changed. */
  let openedFor: string | null = null;
  let connectedFor: string | null = null;
  let closed = false;
  const keyNow = () => sourceKey(rig(), role);

  const reopen = async (key: string): Promise<void> => {
    openedFor = key;
    disconnect();
    if (key === '') return;
    // Only a click may open the browser's picker; until then there is nothing.
    if (wantedSource(rig(), role)?.from === 'screen') return setState({ state: 'absent' });
    setState({ state: 'opening' });
    const opened = await options.open();
    // Nobody wants it any more, or another one: what was changed while it was being opened comes next.
    if (opened && (closed || keyNow() !== key)) {
      opened.close();
      openedFor = null;
      return setState({ state: 'absent' });
    }
    if (opened) await connect(opened);
  };

  const follow = async (): Promise<void> => {
    const [key, settings] = [keyNow(), encodingKey(rig(), role)];
    // A take keeps the sources it has; one that comes late joins it.
    const open = source();
    if (closed || (open && options.isTaking())) return;
    if (openedFor === key && (connectedFor === settings || !open)) return;
    const before = options.state();
    try {
      if (open && openedFor === key) {
        recorder.detach(role);
        await open.adapt?.(rig());
        await again();
      } else await reopen(key);
      connectedFor = settings;
    } catch (error) {
      // One that went and is still away: what was said when it went says more than that it cannot be opened.
      const said = before?.state === 'failed' && before.problem?.code === ENDED && before.problem;
      setState({ state: 'failed', problem: said || problemOf(error) });
    }
  };

  return {
    source,
    release: () => {
      const key = keyNow();
      if (closed || options.isTaking() || openedFor === key) return;
      if (source()) openedFor = null;
      disconnect();
      // Said of all at once, so that nobody takes one that waits its turn for one that is not wanted.
      if (key !== '' && !options.state()?.problem && wantedSource(rig(), role)?.from !== 'screen')
        setState({ state: 'opening' });
    },
    follow,
    put: async (picked) => {
      disconnect();
      openedFor = keyNow();
      await connect(picked);
      connectedFor = encodingKey(rig(), role);
    },
    rearm: again,
    forget: () => {
      openedFor = null;
    },
    ended: () => {
      gone();
      openedFor = null;
      setState({ state: 'failed', problem: endedProblem(role) });
    },
    close: () => {
      closed = true;
      source()?.close();
    },
  };
}

const endedProblem = (role: MediaRole) => ({
  code: ENDED,
  message: 'The source ended.',
  hint:
    role === 'screen'
      ? 'Share it again.'
      : 'The other tracks continue. Connected again, it joins the take automatically.',
});
