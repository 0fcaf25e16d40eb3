import { type Problem, ProblemError, problemOf } from '@/core/base/problem';
import { framesPerSecond } from '@/core/base/rational';
import type { SourceState } from '@/core/findings/preflight';
import type { DeviceSource, Rig, Surface } from '@/core/rig/rig';
import { PictureKind, SoundKind } from '@/practice/messages';
import { drawnSize, PRACTICE_DEVICES, type PracticeDesk } from '@/practice/practice-desk';
import type { MediaRole } from './messages';

/** A source that delivers: real or practice, a track like any other. */
export type OpenSource = {
  role: MediaRole;
  type: 'video' | 'audio';
  track: MediaStreamTrack;
  label: string;
  /** `page`: its timestamps are µs since the page's time origin. */
  clock: 'page' | 'unknown';
  /** Its timestamps carry sequence numbers (`core/recording/sequence.ts`), so that losses on the way are counted. */
  sequenced?: boolean;
  /** How the shared source differs from the chosen one. */
  remark?: string;
  /** What kind of thing the picker gave. */
  shared?: Surface;
  /** Of a sound whose track does not say it itself. */
  channels?: number;
  /** Name of the device that was preferred and is not there. */
  insteadOf?: string;
  /** Gives nothing more until `again`, where it can wait. */
  hold?: () => Promise<unknown>;
  /** Makes it give a picture though nothing has changed. */
  again?: () => void;
  /** Brings an open source to what a changed rig asks of it. */
  adapt?: (rig: Rig) => Promise<void>;
  close: () => void;
};

const PARTS: [part: string, there: () => boolean][] = [
  ['reading captured frames (MediaStreamTrackProcessor)', () => 'MediaStreamTrackProcessor' in globalThis],
  ['video encoding (VideoEncoder)', () => 'VideoEncoder' in globalThis],
  ['sound encoding (AudioEncoder)', () => 'AudioEncoder' in globalThis],
  ['storage for the journal (OPFS)', () => 'getDirectory' in (navigator.storage ?? {})],
  ['locks between tabs (Web Locks)', () => 'locks' in navigator],
];

/** Why this browser cannot record, or null when it can. Asked for by feature, never by name. */
export function recordingProblem(): Problem | null {
  if (!globalThis.isSecureContext)
    return {
      code: 'insecure-context',
      message: 'A browser gives screen, camera and microphone only to a secure page.',
      hint: 'Open the studio at http://localhost or by https.',
    };
  const missing = PARTS.filter(([, there]) => !there()).map(([part]) => part);
  if (missing.length === 0) return null;
  return {
    code: 'browser-lacks',
    message: `This browser lacks ${missing.join(', ')}.`,
    hint: 'Record with another browser on this machine; watching works here too.',
  };
}

/** Opens the practice device of a role. */
export async function openPractice(
  desk: PracticeDesk,
  role: MediaRole,
  id: string,
  rig: Rig,
): Promise<OpenSource> {
  if (role === 'screen' || role === 'camera') {
    const kind = PictureKind.parse(id);
    const known = PRACTICE_DEVICES.picture.find((device) => device.id === id);
    const size = role === 'camera' ? (rig.camera?.size ?? { width: 640, height: 360 }) : drawnSize(kind);
    const rate = role === 'camera' ? (rig.camera?.frameRate ?? rig.picture.frameRate) : rig.picture.frameRate;
    // The test card counts thirty frames per second whatever is asked of the recorder.
    const opened = await desk.openPicture(kind, size, kind === 'test-card' ? { num: 30, den: 1 } : rate);
    const name = known?.name ?? PRACTICE_DEVICES.camera[0].name;
    return { role, type: 'video', clock: 'page', sequenced: true, label: name, ...opened };
  }
  const kind = SoundKind.parse(id);
  const opened = await desk.openSound(kind);
  const label = PRACTICE_DEVICES.sound.find((device) => device.id === id)?.name ?? id;
  return { role, type: 'audio', clock: 'unknown', channels: 1, label, ...opened };
}

/** Sound as it is: what a browser does to calls makes voices thin and app sound mono. */
const AS_IT_IS = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

const CURSORS = { shown: 'always', hidden: 'never' } as const;
const DELIVERED: Record<string, Surface> = { monitor: 'display', window: 'window', browser: 'tab' };

const sharedRate = ({ frameRate }: Pick<Rig['picture'], 'frameRate'>) => ({
  ideal: framesPerSecond(frameRate),
  max: 60,
});

/**
 * Lets the user choose a screen in the browser's own picker. Call it from a click.
 * @returns the picture, and its sound when the picker gave one
 */
export async function openScreen(
  meant: Surface,
  { frameRate, pointer }: Pick<Rig['picture'], 'frameRate' | 'pointer'>,
  withSound: boolean,
): Promise<OpenSource[]> {
  const surface = { display: 'monitor', window: 'window', tab: 'browser' }[meant];
  const stream = await asked('screen', () =>
    navigator.mediaDevices.getDisplayMedia({
      video: {
        displaySurface: surface,
        frameRate: sharedRate({ frameRate }),
        ...(pointer === 'as-captured' ? {} : { cursor: CURSORS[pointer] }),
      },
      audio: withSound ? { ...AS_IT_IS, suppressLocalAudioPlayback: false } : false,
      // Whoever teaches the studio itself chooses its tab; in all other cases it would only show itself.
      selfBrowserSurface: meant === 'tab' ? 'include' : 'exclude',
      surfaceSwitching: 'exclude',
      systemAudio: withSound ? 'include' : 'exclude',
    } as DisplayMediaStreamOptions),
  );
  const [video] = stream.getVideoTracks();
  if (!video)
    throw new ProblemError({
      code: 'no-picture',
      message: 'The browser shared no picture.',
      hint: 'Choose a screen again.',
    });
  video.contentHint = 'text';
  const { cursor } = video.getSettings() as { cursor?: string };
  const remark =
    [
      pointer !== 'as-captured' &&
        cursor !== CURSORS[pointer] &&
        `The pointer was to be ${pointer}; this browser says “${cursor ?? 'nothing'}”.`,
    ]
      .filter(Boolean)
      .join(' ') || undefined;
  const shared = DELIVERED[String(video.getSettings().displaySurface)];
  const screen: OpenSource = {
    ...realSource('screen', 'video', video, remark),
    shared,
    adapt: ({ picture }) => video.applyConstraints({ frameRate: sharedRate(picture) }),
  };
  const [audio] = stream.getAudioTracks();
  if (audio) return [screen, realSource('app-sound', 'audio', audio)];
  if (withSound)
    screen.remark = [
      remark,
      'The computer’s sound was not shared: tick it in the browser’s picker, or share a tab.',
    ]
      .filter(Boolean)
      .join(' ');
  return [screen];
}

/** Opens a real camera. */
export async function openCamera(
  source: Extract<DeviceSource, { from: 'device' }>,
  rig: Rig,
): Promise<OpenSource> {
  const settings = rig.camera;
  const stream = await asked('camera', () =>
    navigator.mediaDevices.getUserMedia({
      video: {
        deviceId: source.id ? { exact: source.id } : undefined,
        width: { ideal: settings?.size.width ?? 640 },
        height: { ideal: settings?.size.height ?? 360 },
        frameRate: { ideal: settings ? framesPerSecond(settings.frameRate) : 30 },
      },
    }),
  );
  const [track] = stream.getVideoTracks();
  if (!track) throw new ProblemError({ code: 'no-picture', message: 'The camera gave no picture.' });
  const got = track.getSettings();
  const other = settings && (got.width !== settings.size.width || got.height !== settings.size.height);
  return realSource(
    'camera',
    'video',
    track,
    other ? `The camera gives ${got.width} × ${got.height}.` : undefined,
  );
}

/** Opens a real microphone, or a loopback device that stands in for the computer's sound. */
export async function openSoundDevice(
  role: 'voice' | 'app-sound',
  source: Extract<DeviceSource, { from: 'device' }>,
  channels: 1 | 2,
): Promise<OpenSource> {
  const stream = await asked(role === 'voice' ? 'microphone' : 'sound device', () =>
    navigator.mediaDevices.getUserMedia({
      audio: {
        ...AS_IT_IS,
        deviceId: source.id ? { exact: source.id } : undefined,
        channelCount: channels,
      },
    }),
  );
  const [track] = stream.getAudioTracks();
  if (!track) throw new ProblemError({ code: 'no-sound', message: 'The device gave no sound.' });
  return realSource(role, 'audio', track);
}

type RealDevice = Extract<DeviceSource, { from: 'device' }>;

/** Opens a device, or the browser's own choice where the preferred one is not plugged in. */
export async function orAnother(
  source: RealDevice,
  open: (device: RealDevice) => Promise<OpenSource>,
): Promise<OpenSource> {
  try {
    return await open(source);
  } catch (error) {
    if (source.id === '' || problemOf(error).code !== 'no-device') throw error;
    // Where there is no other either, the first refusal says more.
    const another = await open({ from: 'device', id: '', label: '' }).catch(() => {
      throw error;
    });
    return { ...another, insteadOf: source.label };
  }
}

function realSource(
  role: MediaRole,
  type: 'video' | 'audio',
  track: MediaStreamTrack,
  remark?: string,
): OpenSource {
  return { role, type, track, label: track.label, clock: 'unknown', remark, close: () => track.stop() };
}

/** The most that a device says it can give; undefined for what says nothing of it. */
export function mostOf({ track, type }: OpenSource): SourceState['most'] {
  const { width, height, frameRate } = type === 'video' ? (track.getCapabilities?.() ?? {}) : {};
  if (!width?.max || !height?.max) return undefined;
  return { width: width.max, height: height.max, fps: Math.round(frameRate?.max ?? 30) };
}

/** What a device says of its samples; null where it says nothing. */
export function givenBy({ track, channels }: OpenSource): SourceState['gives'] {
  const { sampleRate, sampleSize, channelCount } = track.getSettings();
  return {
    sampleRate: sampleRate ?? null,
    bits: sampleSize ?? null,
    channels: channels ?? channelCount ?? null,
  };
}

/** Turns a browser's refusal into what was wrong and the way on. */
async function asked(what: string, ask: () => Promise<MediaStream>): Promise<MediaStream> {
  const unsuitable = recordingProblem();
  if (unsuitable) throw new ProblemError(unsuitable);
  try {
    return await ask();
  } catch (cause) {
    const name = cause instanceof Error ? cause.name : '';
    throw new ProblemError(
      { ...(REFUSALS[name] ?? { code: 'unexpected', message: String(cause) }), field: what },
      { cause },
    );
  }
}

const REFUSALS: Record<string, Problem> = {
  NotAllowedError: {
    code: 'permission-refused',
    message: 'The browser was not allowed to share it.',
    hint: 'Choose again and allow it. If the browser no longer asks, open the permissions beside the address.',
  },
  NotFoundError: {
    code: 'no-device',
    message: 'There is no such device.',
    hint: 'Plug it in, or choose another one or a practice device.',
  },
  OverconstrainedError: {
    code: 'no-device',
    message: 'The chosen device is gone.',
    hint: 'Plug it in, or choose another one.',
  },
  NotReadableError: {
    code: 'device-busy',
    message: 'The device is in use by another program.',
    hint: 'Close the other program and try again.',
  },
  AbortError: {
    code: 'device-busy',
    message: 'The device did not start.',
    hint: 'Unplug it, plug it in again and retry.',
  },
  InvalidStateError: {
    code: 'needs-click',
    message: 'The browser opens its picker only on a click.',
    hint: 'Press the button again.',
  },
};
