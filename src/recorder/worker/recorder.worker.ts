/** The recorder's worker: every track of a take, from the frames of its sources to the journal. */

import { ProblemError, problemOf } from '@/core/base/problem';
import { pauseClock, resumeClock, startClock } from '@/core/recording/clock';
import { wakefulClock } from '@/core/recording/deadline';
import { ledgersByTrack } from '@/core/recording/ledger';
import type { SegmentHead, TakeEnd, TakeHead } from '@/core/recording/take';
import { type RoomWatch, watchRoom } from '../free-space/space-watch';
import {
  discardTake,
  newRehearsalFolder,
  RECORDING_LOCK,
  type SegmentLine,
  takeFolder,
  takeLock,
  writeDocument,
  writeHead,
} from '../journal';
import {
  type AttachSettings,
  type Figures,
  type FromRecorder,
  type MediaRole,
  type SourceInput,
  ToRecorder,
} from '../messages';
import { type EventsTrack, openEvents } from './events-track';
import { causeOf, faultText, type Recovery } from './fault';
import { figuresNow } from './figures-now';
import { openFrameSharing } from './frame-sharing';
import { holdLock } from './hold-lock';
import { line, type OnWrite, openJournalFile } from './journal-file';
import { noRoom } from './no-room';
import { listenForFaultOrders } from './ordered-faults';
import { openPointer } from './pointer';
import { elapsed, isPaused, newRecording, pauses, type Recording, worked } from './recording';
import { openRehearsalNotes, rehearsedOf } from './rehearsal-notes';
import { openSoundTrack, type SoundTrack } from './sound-track';
import { declaredClock, pictureClock, soundClock } from './source-clock';
import { openVideoTrack, type VideoTrack } from './video-track';

/** Early pictures wait for their slot and still ones are repeated: looked at this often. Frames themselves need no timer. */
const PUMP_MS = 5;
const FIGURES_MS = 250;

let pageOriginMs = performance.timeOrigin;
const pageUs = (ownUs: number) => (performance.timeOrigin - pageOriginMs) * 1000 + ownUs;
const ownNowUs = wakefulClock(
  () => performance.now() * 1000,
  (fromUs, toUs) => sleptOver(pageUs(fromUs), pageUs(toUs)),
);
const nowUs = () => pageUs(ownNowUs());

type Take = {
  head: TakeHead;
  recording: Recording;
  events: EventsTrack;
  watch: RoomWatch;
  /** Every segment that was begun, in order. */
  opened: SegmentHead[];
  failed: Figures['failed'];
  release: () => void;
  closeLog: () => void;
};

const pointer = openPointer(nowUs);
let take: Take | null = null;
let starting = false;
let stopping: Promise<void> | null = null;
const videos = new Map<'screen' | 'camera', VideoTrack>();
const sounds = new Map<'voice' | 'app-sound', SoundTrack>();
/** Tracks whose source went in the middle of the take: their counts still belong to it. */
const parted: VideoTrack[] = [];
/** Which source has which role now. */
const attached = new Map<MediaRole, number>();
const sharing = openFrameSharing((role) => videos.get(role as 'screen')?.source);
/** Tracks whose source went and that are still being finished: a take ends only after them. */
const leaving = new Set<Promise<void>>();

const tell = (message: FromRecorder) => postMessage(message);
const problem = (error: unknown, fatal = false) =>
  tell({ type: 'problem', problem: problemOf(error), fatal });

function attach(source: SourceInput, settings: AttachSettings): void {
  const { id, role } = source;
  const onEnded = () => {
    // Another source may have taken the role while this one was ending.
    if (attached.get(role) !== id) return;
    tell({ type: 'ended', role, id });
    detach(role);
  };
  attached.set(role, id);
  const common = {
    nowUs,
    onEnded,
    onRecovery: (recovery: Recovery) => onRecovery(role, recovery),
    onProblem: (error: unknown) => problem(error),
  };
  if (role === 'screen') pointer.forget();
  if ((role === 'screen' || role === 'camera') && 'video' in settings) {
    const readable = source.readable as ReadableStream<VideoFrame>;
    const clock = source.clock === 'page' ? declaredClock() : pictureClock();
    const track = openVideoTrack({
      ...common,
      ...{ role, readable, clock, settings: settings.video },
      ...{ sequenced: source.sequenced, captured: source.clock === 'unknown' },
      pointer: () => (role === 'screen' ? pointer.at() : null),
      onRegion: (at) => take?.events.add('region', { ...at }, nowUs()),
      onPicture: (latest) => sharing.offer(role, latest),
    });
    videos.set(role, track);
    join(track, role);
  } else if ((role === 'voice' || role === 'app-sound') && 'sound' in settings) {
    const readable = source.readable as ReadableStream<AudioData>;
    const workerOriginUs = (performance.timeOrigin - pageOriginMs) * 1000;
    const clock = soundClock(workerOriginUs);
    const track = openSoundTrack({ ...common, role, readable, sound: settings.sound, clock });
    sounds.set(role, track);
    join(track, role);
  }
}

/** A part of a track has failed: the take says so, and goes on. */
function onRecovery(role: MediaRole, { fault, by }: Recovery): void {
  take?.events.add('fault', { role, part: fault.part, by, cause: causeOf(fault) }, nowUs());
  if (take && by === 'end') take.failed[role] = faultText(fault);
}

/** The machine was asleep: the take's clock stood still, as in a pause. The page's timers stood too. */
function sleptOver(fromUs: number, toUs: number): void {
  tell({ type: 'slept' });
  if (!take) return;
  const { recording, events } = take;
  events.add('sleep', { ms: Math.round((toUs - fromUs) / 1000) }, fromUs);
  if (isPaused(recording)) return;
  recording.clock = resumeClock(pauseClock(recording.clock, fromUs), toUs);
  for (const track of videos.values()) track.resume();
}

/** A source that comes in the middle of a take begins a segment of its own there. */
function join(track: VideoTrack | SoundTrack, role: MediaRole): void {
  if (!take) return;
  take.events.add('source', { role, state: 'joined' }, nowUs());
  track.start(take.recording);
}

/** Lets a source go. What it gave to a running take is finished first and stays. */
function detach(role: MediaRole): void {
  const left = release(role)
    .catch(problem)
    .finally(() => leaving.delete(left));
  leaving.add(left);
}

async function release(role: MediaRole): Promise<void> {
  const track = role === 'screen' || role === 'camera' ? videos.get(role) : sounds.get(role);
  attached.delete(role);
  if (!track) return;
  videos.delete(role as 'screen');
  sounds.delete(role as 'voice');
  if (take) {
    take.events.add('source', { role, state: 'ended' }, nowUs());
    await track.stop(elapsed(take.recording, nowUs()));
    if ('ledger' in track) parted.push(track);
  }
  track.release();
}

type Start = Pick<Extract<ToRecorder, { type: 'start' }>, 'head' | 'segmentUs' | 'rehearsalUs'>;

async function start(order: Start): Promise<void> {
  const { head } = order;
  const letOthersRecord = await holdLock(RECORDING_LOCK);
  // Locked before it is there: a journal that nobody holds is taken for one that was cut off.
  const releaseTake = await holdLock(takeLock(head.id));
  const release = () => {
    releaseTake();
    letOthersRecord();
  };
  try {
    await begin(order, release);
  } catch (error) {
    release();
    throw error instanceof DOMException && error.name === 'QuotaExceededError' ? noRoom(error) : error;
  }
}

async function begin({ head, segmentUs, rehearsalUs }: Start, release: () => void): Promise<void> {
  const folder = rehearsalUs ? await newRehearsalFolder(head.id) : await takeFolder(head.id, true);
  const watch = await watchRoom(
    folder,
    () => (take ? (allBytes() * 1e6) / Math.max(2e6, worked(take.recording, nowUs())) : 0),
    () => full(),
  );
  let told = false;
  const full = (error?: unknown) => {
    watch.giveReserve();
    // Every file of the take says it; the take ends once.
    if (!told) problem(noRoom(error), true);
    told = true;
  };
  await writeHead(folder, head);
  const log = await openJournalFile(folder, 'segments.jsonl', full);
  const opened: SegmentHead[] = [];
  const write = (entry: SegmentLine) => {
    if ('open' in entry) opened.push(entry.open);
    log.append(line(JSON.stringify(entry)));
    log.flush();
  };
  const { picture, limits } = head.rig;
  const notes = rehearsalUs ? openRehearsalNotes(rehearsalUs, nowUs) : null;
  const onWrite: OnWrite = ({ beganMs, ms, bytes }) => {
    const atUs = elapsed(recording, (performance.timeOrigin - pageOriginMs + beganMs) * 1000);
    notes?.trace.wrote({ atUs, ms, bytes });
  };
  const files = {
    ...{ folder, log: write, onFull: full },
    ...(segmentUs !== undefined && { segmentUs }),
    ...(notes && { onWrite }),
  };
  const recording = newRecording(nowUs(), files, picture.speed, limits.lengthS, notes);
  const events = openEvents(recording);
  // The first instant is when everything is ready: nothing that is seen or heard after it is lost.
  recording.clock = startClock(nowUs());
  take = { head, recording, events, opened, failed: {}, watch, release, closeLog: log.close };
  for (const track of openTracks()) track.start(recording);
  tell({ type: 'started', baseUs: recording.clock.baseUs });
}

const openTracks = () => [...videos.values(), ...sounds.values()];
/** Of the take: those whose source went in the middle of it as well. */
const allTracks = () => [...parted, ...openTracks()];
const allBytes = () => allTracks().reduce((sum, track) => sum + track.bytes(), 0);

/** Asked twice, by a full storage and by the page that closes, a take is ended once. */
function stop(atUs: number): Promise<void> {
  stopping ??= end(atUs).finally(() => {
    stopping = null;
  });
  return stopping;
}

async function end(atUs: number): Promise<void> {
  const ending = take;
  if (!ending) return;
  const { recording, events } = ending;
  const durationUs = elapsed(recording, atUs);
  await Promise.all([...leaving, ...openTracks().map((track) => track.stop(durationUs))]);
  await events.close();
  const tracks = [...parted, ...videos.values()];
  const end: TakeEnd = {
    durationUs,
    pauses: pauses(recording),
    ledger: ledgersByTrack(tracks.map((track) => ({ role: track.role, ledger: track.ledger() }))),
    segments: ending.opened.map(({ id }) => id),
    absent: [],
    cutOff: false,
  };
  await closeJournal(ending);
  // A storage that is full to the last byte does not take it; what the packet indexes tell is as long to the frame.
  await writeDocument(recording.files.folder, 'end.json', end).catch(() => undefined);
  const { rehearsal, files } = recording;
  const rehearsed = rehearsal && (await rehearsedOf(rehearsal, files.folder, ending.opened));
  finish(ending);
  tell({ type: 'stopped', end, rehearsed });
}

async function discard(): Promise<void> {
  const ending = take;
  if (!ending) return;
  const durationUs = elapsed(ending.recording, nowUs());
  await Promise.all([...leaving, ...openTracks().map((track) => track.stop(durationUs))]);
  await ending.events.close();
  await closeJournal(ending);
  await discardTake(ending.head.id);
  finish(ending);
  tell({ type: 'discarded' });
}

/** Pictures that are on their way when a worker ends are never closed, and a capture that misses some stalls. */
const LINGER_MS = 5000;

async function close(): Promise<void> {
  if (take) await stop(nowUs());
  sharing.close();
  for (const track of openTracks()) track.release();
  videos.clear();
  sounds.clear();
  setTimeout(() => self.close(), LINGER_MS);
}

async function closeJournal(ending: Take): Promise<void> {
  ending.closeLog();
  await ending.watch.close();
}

/** The sources have given all they had to this take; the page attaches them again for the next. */
function finish(ending: Take): void {
  for (const track of allTracks()) track.release();
  videos.clear();
  sounds.clear();
  parted.length = 0;
  take = null;
  pointer.endScript();
  ending.release();
}

async function handle(message: ToRecorder): Promise<void> {
  switch (message.type) {
    case 'open':
      pageOriginMs = message.pageOriginMs;
      return tell({ type: 'opened' });
    case 'attach': {
      const { source, settings } = message;
      const attached = { type: 'attached', role: source.role, id: source.id } as const;
      try {
        attach(source, settings);
        return tell({ ...attached, problem: null });
      } catch (error) {
        return tell({ ...attached, problem: problemOf(error) });
      }
    }
    case 'detach':
      return detach(message.role);
    case 'preview':
      return sharing.preview(message.role, message.port);
    case 'sample':
      return sharing.sample(message.role, message.port);
    case 'preview-state':
      return sharing[message.state](message.role);
    case 'timestamps': {
      const { timestampsUs = [], earliestOffsetUs = 0 } =
        videos.get(message.role as 'screen')?.clock.seen() ?? {};
      return tell({ type: 'timestamps', role: message.role, timestampsUs, earliestOffsetUs });
    }
    case 'offset':
      return videos.get(message.role as 'screen')?.clock.set(message.offsetUs, 'paired');
    case 'start':
      if (take || starting)
        throw new ProblemError({ code: 'conflict', message: 'A take is already being recorded.' });
      starting = true;
      return start(message).finally(() => {
        starting = false;
      });
    case 'pause':
      if (!take || isPaused(take.recording)) return;
      take.events.add('pause', {}, message.atUs);
      take.recording.clock = pauseClock(take.recording.clock, message.atUs);
      return;
    case 'resume':
      if (!take || !isPaused(take.recording)) return;
      take.recording.clock = resumeClock(take.recording.clock, message.atUs);
      take.events.add('resume', {}, message.atUs);
      for (const track of videos.values()) track.resume();
      return;
    case 'pointer-script':
      return pointer.follow(message);
    case 'mute':
      return sounds.get(message.role as 'voice')?.mute(message.muted);
    case 'event': {
      const { kind, data, atUs } = message;
      if (kind === 'pointer') pointer.told(data);
      return take?.events.add(
        kind,
        kind === 'click' ? { ...data, ...videos.get('screen')?.placeOf(data) } : data,
        atUs,
      );
    }
    case 'stop':
      return stop(message.atUs);
    case 'discard':
      return discard();
    case 'close':
      return close();
  }
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = ToRecorder.safeParse(data);
  if (!message.success)
    return problem(new Error(`The recorder did not understand: ${message.error.issues[0]?.message}`), true);
  const fatal = message.data.type === 'start' || message.data.type === 'stop';
  handle(message.data).catch((error) => problem(error, fatal));
};

listenForFaultOrders();

setInterval(() => {
  nowUs();
  for (const track of videos.values()) track.pump();
}, PUMP_MS);

setInterval(() => {
  if (videos.size === 0 && sounds.size === 0) return;
  const { recording = null, watch, failed = {} } = take ?? {};
  const roomS = watch?.room()?.seconds ?? null;
  const now = { bytes: allBytes(), tracks: allTracks(), nowUs: nowUs() };
  tell({ type: 'figures', figures: figuresNow({ recording, failed, videos, sounds, roomS, ...now }) });
}, FIGURES_MS);
