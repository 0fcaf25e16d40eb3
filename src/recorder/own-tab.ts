import { z } from 'zod';
import type { TakeEvent } from '@/core/recording/take';

/**
 * Where the pointer is in a captured tab is known when that tab is one of the studio's: every page of it makes itself known by a
 * capture handle (W3C Capture Handle, Identity), and tells over a channel what pointer and keys do in it while it is watched.
 */
const CHANNEL = 'own-tab';

const Message = z.discriminatedUnion('type', [
  z.object({ type: z.enum(['watch', 'leave']), tab: z.string() }),
  z.object({
    type: z.literal('told'),
    tab: z.string(),
    /** ms since the epoch, by the monotonic clock of the page that tells. */
    atMs: z.number(),
    kind: z.enum(['pointer', 'click', 'key']),
    /** Shares of the page's inner size, of pointer and click. */
    x: z.number().min(0).max(1).optional(),
    y: z.number().min(0).max(1).optional(),
    button: z.string().optional(),
    key: z.string().optional(),
  }),
]);
type Message = z.infer<typeof Message>;
type Told = Extract<Message, { type: 'told' }>;

type CapturedTrack = MediaStreamTrack & { getCaptureHandle?: () => { handle?: string } | null };
type Devices = MediaDevices & {
  setCaptureHandleConfig?: (config: { handle: string; permittedOrigins: string[] }) => void;
};

const BUTTONS = ['left', 'middle', 'right'];

/** Makes this page known to whoever captures its tab, and tells what happens in it for as long as somebody watches. */
export function announceTab(): () => void {
  const devices: Devices | undefined = navigator.mediaDevices;
  if (!devices?.setCaptureHandleConfig || window.top !== window) return () => undefined;
  const tab = crypto.randomUUID();
  devices.setCaptureHandleConfig({ handle: tab, permittedOrigins: [location.origin] });
  const channel = new BroadcastChannel(CHANNEL);
  let telling: AbortController | null = null;

  const tell = (event: Event, what: Pick<Told, 'kind' | 'button' | 'key'>) => {
    const told: Told = {
      type: 'told',
      tab,
      atMs: performance.timeOrigin + event.timeStamp,
      ...what,
      ...(event instanceof PointerEvent && {
        x: Math.min(1, Math.max(0, event.clientX / innerWidth)),
        y: Math.min(1, Math.max(0, event.clientY / innerHeight)),
      }),
    };
    channel.postMessage(told);
  };
  const begin = () => {
    if (telling) return;
    telling = new AbortController();
    const how = { capture: true, passive: true, signal: telling.signal };
    addEventListener('pointermove', (event) => tell(event, { kind: 'pointer' }), how);
    addEventListener(
      'pointerdown',
      (event) => tell(event, { kind: 'click', button: BUTTONS[event.button] ?? `${event.button}` }),
      how,
    );
    addEventListener(
      'keydown',
      (event) => {
        // What is typed where dots are shown is nobody's business.
        const secret = event.target instanceof HTMLInputElement && event.target.type === 'password';
        if (!secret && !event.repeat) tell(event, { kind: 'key', key: event.key });
      },
      how,
    );
  };
  const end = () => {
    telling?.abort();
    telling = null;
  };
  channel.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = Message.safeParse(data).data;
    if (message?.tab !== tab) return;
    if (message.type === 'watch') begin();
    if (message.type === 'leave') end();
  };
  return () => {
    end();
    channel.close();
  };
}

/**
 * Listens to the tab that a track captures, if it is one of the studio's; also after it went on to another page.
 * @param tell gets places in pixels of what is captured and times in µs since this page's time origin
 * @param onKnown called whenever it begins or ends to be known where the pointer is
 * @returns the function that ends the listening
 */
export function watchTab(
  track: MediaStreamTrack,
  tell: (kind: TakeEvent['kind'], data: TakeEvent['data'], atUs: number) => void,
  onKnown: (known: boolean) => void,
): () => void {
  const captured: CapturedTrack = track;
  if (!captured.getCaptureHandle) return () => undefined;
  const channel = new BroadcastChannel(CHANNEL);
  let tab: string | undefined;
  const say = (type: 'watch' | 'leave') => {
    if (tab) channel.postMessage({ type, tab } satisfies Message);
  };
  const look = () => {
    const next = captured.getCaptureHandle?.()?.handle || undefined;
    if (next === tab) return;
    say('leave');
    tab = next;
    say('watch');
    onKnown(tab !== undefined);
  };
  channel.onmessage = ({ data }: MessageEvent<unknown>) => {
    const told = Message.safeParse(data).data;
    if (told?.type !== 'told' || told.tab !== tab) return;
    const { width = 0, height = 0 } = track.getSettings();
    const { kind, x, y, button, key } = told;
    const what: TakeEvent['data'] = {};
    if (x !== undefined && y !== undefined) {
      what.x = Math.round(x * width);
      what.y = Math.round(y * height);
    }
    if (button) what.button = button;
    if (key) what.key = key;
    tell(kind, what, (told.atMs - performance.timeOrigin) * 1000);
  };
  const leave = () => say('leave');
  track.addEventListener('capturehandlechange', look);
  addEventListener('pagehide', leave);
  look();
  return () => {
    leave();
    track.removeEventListener('capturehandlechange', look);
    removeEventListener('pagehide', leave);
    channel.close();
  };
}
