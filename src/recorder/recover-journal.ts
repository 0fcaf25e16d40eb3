import { ALL_FORMATS, BlobSource, Input } from 'mediabunny';
import { type LessonId, newTakeId, SegmentId, TakeId } from '@/core/base/ids';
import { FOURCC } from '@/core/codec/fourcc';
import { type FoundMedia, recognizeTracks } from '@/core/keeping/recognize-tracks';
import { type SegmentHead, TakeEvent } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { type JournalEntry, readText, type SegmentLine, writeHead, writeText } from './journal';
import { machineFacts } from './machine';
import { type Journal, mediaFiles } from './read-journal';

/** Codecs by the muxer's names, where a file says no more. */
const MUX_NAMES: Record<string, string> = { avc: FOURCC.h264, vp9: FOURCC.vp9, av1: FOURCC.av1 };
const OPUS_DELAY_US = 6500;

/** What a segment's file is, read from the file alone. @returns null when it is neither media nor events */
async function recognize(id: SegmentId, file: File): Promise<FoundMedia | null> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const [track] = await input.getTracks();
    if (!track) return null;
    const startUs = Math.max(0, Math.round((await track.getFirstTimestamp()) * 1e6));
    const seconds = Math.max(1, (await track.computeDuration().catch(() => 0)) - startUs / 1e6);
    const bitrateKbps = (file.size * 8) / 1000 / seconds;
    const codec = (await track.getCodecParameterString()) ?? MUX_NAMES[track.codec ?? ''] ?? 'unknown';
    if (track.isVideoTrack()) {
      const [width, height] = [track.codedWidth, track.codedHeight];
      return {
        ...{ id, startUs, encoderDelayUs: 0 },
        media: { type: 'video', codec, width, height, bitrateKbps },
      };
    }
    if (!track.isAudioTrack()) return null;
    return {
      ...{ id, startUs, encoderDelayUs: track.codec === 'opus' ? OPUS_DELAY_US : 0 },
      media: {
        type: 'audio',
        codec,
        sampleRate: track.sampleRate,
        channels: Math.min(2, track.numberOfChannels),
        bitrateKbps,
      },
    };
  } catch {
    const [line = ''] = (await file.text()).split('\n', 1);
    return isEvent(line) ? { id, startUs: 0, encoderDelayUs: 0, media: { type: 'events' } } : null;
  }
}

function isEvent(line: string): boolean {
  try {
    return TakeEvent.safeParse(JSON.parse(line)).success;
  } catch {
    return false;
  }
}

async function recognizeAll(folder: FileSystemDirectoryHandle, only?: readonly SegmentId[]) {
  const found: FoundMedia[] = [];
  for (const [name, file] of await mediaFiles(folder)) {
    const id = SegmentId.safeParse(name.replace(/\.media$/, ''));
    if (!id.success || (only && !only.includes(id.data))) continue;
    const media = await recognize(id.data, file);
    if (media) found.push(media);
  }
  return recognizeTracks(found);
}

const linesOf = (segments: readonly SegmentHead[], journal: Journal | null): string => {
  const opened = segments.map((open): SegmentLine => ({ open }));
  const closed = [...(journal?.closed ?? [])].map((id): SegmentLine => ({ closed: id, media: 0, index: 0 }));
  return [...opened, ...closed].map((entry) => `${JSON.stringify(entry)}\n`).join('');
};

/**
 * Lists the media whose lines were torn again, from what the files themselves say. The tracks keep their order: what is listed again gets
 * the next numbers.
 * @returns the journal with all that could be recognized; the rest stays `unlisted`, and in its place
 */
export async function listAgain(folder: FileSystemDirectoryHandle, journal: Journal): Promise<Journal> {
  const heads = (await recognizeAll(folder, journal.unlisted)).map((head) => {
    const own = journal.segments.filter(({ track }) => track === head.track);
    return { ...head, index: Math.max(-1, ...own.map(({ index }) => index)) + 1 + head.index };
  });
  if (heads.length === 0) return journal;
  const segments = [...journal.segments, ...heads];
  await writeText(folder, 'segments.jsonl', linesOf(segments, journal));
  const listed = new Set(heads.map(({ id }) => id));
  return { ...journal, segments, unlisted: journal.unlisted.filter((id) => !listed.has(id)) };
}

/**
 * Makes a journal that cannot be read readable: its tracks are recognized from their files, and it gets a head of its own in the given
 * lesson. What could not be read is kept beside it.
 * @returns how many files were recognized; nothing is changed when there are none
 */
export async function recoverJournal({ folder, name }: JournalEntry, lessonId: LessonId): Promise<number> {
  const segments = await recognizeAll(folder);
  if (segments.length === 0) return 0;
  for (const document of ['take.json', 'segments.jsonl', 'end.json']) {
    const text = await readText(folder, document);
    if (text !== null) await writeText(folder, `${document}.unreadable`, text);
  }
  const files = [...(await mediaFiles(folder)).values()];
  const id = TakeId.safeParse(name);
  await writeText(folder, 'segments.jsonl', linesOf(segments, null));
  // Made again from the packet indexes.
  await folder.removeEntry('end.json').catch(() => undefined);
  await writeHead(folder, {
    id: id.success ? id.data : newTakeId(),
    lessonId,
    rig: PRACTICE_RIG,
    startedAt: new Date(Math.min(...files.map(({ lastModified }) => lastModified))).toISOString(),
    ...machineFacts(),
  });
  return segments.length;
}
