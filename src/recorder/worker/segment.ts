import {
  type AudioCodec,
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedVideoPacketSource,
  MkvOutputFormat,
  type VideoCodec as MuxVideoCodec,
  Output,
  StreamTarget,
} from 'mediabunny';
import type { VideoCodec } from '@/core/codec/codecs';
import { codecOfString } from '@/core/codec/fourcc';
import type { SegmentHead, SegmentPart } from '@/core/recording/take';
import { partName, type SegmentLine } from '../journal';
import type { Fault } from './fault';
import { type JournalFile, line, type OnWrite, openJournalFile } from './journal-file';
import { mustFail } from './ordered-faults';

export type Packet = {
  data: Uint8Array;
  key: boolean;
  /** Take time. */
  tUs: number;
  durationUs: number;
};

/** One media file that is being written, with its packet index. */
export type Segment = {
  readonly head: SegmentHead;
  readonly bytes: () => number;
  readonly unwritten: () => number;
  /** Packets that were given and are not in the file. */
  readonly lost: () => number;
  /** @param meta the encoder's own description; needed with the first packet */
  readonly add: (packet: Packet, meta?: PacketMeta) => void;
  /** Ends the file at the last packet that went into it whole; never rejects. */
  readonly close: () => Promise<void>;
};

/** What a segment needs from the take it belongs to. */
export type TakeFiles = {
  readonly folder: FileSystemDirectoryHandle;
  readonly log: (entry: SegmentLine) => void;
  /** The storage has no more room, which ends the take. */
  readonly onFull: (error: unknown) => void;
  /** Told how long each write to the disk took. */
  readonly onWrite?: OnWrite;
  /** How long a segment of a long track is; tests make it short. */
  readonly segmentUs?: number;
};

const MUX_VIDEO: Record<VideoCodec, MuxVideoCodec> = { h264: 'avc', vp9: 'vp9', av1: 'av1' };
const MUX_AUDIO: Record<string, AudioCodec> = { opus: 'opus', 'pcm-s16': 'pcm-s16', 'pcm-s24': 'pcm-s24' };

/**
 * Begins a segment: one track in one Matroska file, so that no track ever waits for another. Blocks go to the file as they
 * come (append only, nothing is ever written back), which is what survives a crash.
 * @param onFault told once, when the muxer or the file fails; what comes after is not taken any more
 */
export function openSegment(head: SegmentHead, files: TakeFiles, onFault: (fault: Fault) => void): Segment {
  let failed = false;
  let lost = 0;
  const fail = (fault: Fault) => {
    if (failed) return;
    failed = true;
    onFault(fault);
  };
  const onFileError = (error: unknown) =>
    isFull(error) ? files.onFull(error) : fail({ part: 'file', error });
  const open = (part: SegmentPart) =>
    openJournalFile(files.folder, partName(head.id, part), onFileError, {
      mustFail: () => mustFail(head.track, 'file'),
      onWrite: files.onWrite,
    });
  let opened: { media: JournalFile; index: JournalFile; writer: Matroska | null } | null = null;
  /** Where packets end in both files that are not on the disk yet, and where the index of those that are ends. */
  const ends: { media: number; index: number }[] = [];
  let whole = 0;
  /** Packets that came before the files were open: encoding need not wait for the disk. */
  let early: [Packet, PacketMeta?][] = [];
  const add = (packet: Packet, meta?: PacketMeta) => {
    if (failed) {
      lost++;
      return;
    }
    if (!opened) {
      early.push([packet, meta]);
      return;
    }
    const { index, media, writer } = opened;
    const note = () => {
      index.append(line(`${packet.tUs} ${packet.data.length} ${packet.key ? 1 : 0}`));
      while (ends[0] && ends[0].media <= media.length() - media.unwritten())
        whole = ends.shift()?.index ?? whole;
      ends.push({ media: media.length(), index: index.length() });
    };
    if (writer) return writer.add(packet, meta, note);
    media.append(packet.data);
    note();
  };
  files.log({ open: head });
  const opening = (async () => {
    const [media, index] = await Promise.all([open('media'), open('index')]);
    const writer =
      head.configuration.type === 'events'
        ? null
        : await matroska(head, media, (error) => {
            lost++;
            fail({ part: 'muxer', error });
          });
    opened = { media, index, writer };
    for (const [packet, meta] of early) add(packet, meta);
    early = [];
    return opened;
  })();
  opening.catch(onFileError);
  return {
    head,
    bytes: () => (opened ? opened.media.length() + opened.index.length() : 0),
    unwritten: () => (opened ? opened.media.unwritten() + opened.index.unwritten() : 0),
    lost: () => lost + early.length,
    add,
    close: async () => {
      const journal = await opening.catch(() => null);
      if (!journal) return;
      const { media, index, writer } = journal;
      await writer?.close();
      // A head without packets is nothing that could be played.
      if (ends.length === 0 && whole === 0) media.closeAt(0);
      else media.close();
      // What the storage has refused for good is not in the index either.
      while (ends[0] && ends[0].media <= media.length()) whole = ends.shift()?.index ?? whole;
      lost += ends.length;
      index.closeAt(whole);
      files.log({ closed: head.id, media: media.length(), index: index.length() });
    },
  };
}

/** What the storage says when it has no more room: of its quota, or of the disk. */
const isFull = (error: unknown): boolean =>
  error instanceof DOMException && error.name === 'QuotaExceededError';

export type PacketMeta = EncodedVideoChunkMetadata | EncodedAudioChunkMetadata;
type Matroska = {
  /** @param written called when the packet is in the file */
  add: (packet: Packet, meta: PacketMeta | undefined, written: () => void) => void;
  close: () => Promise<void>;
};

async function matroska(
  head: SegmentHead,
  file: JournalFile,
  onError: (error: unknown) => void,
): Promise<Matroska> {
  const target = new StreamTarget(
    new WritableStream({
      write: ({ data, position }) => {
        if (position !== file.length())
          throw new Error('The muxer wrote backwards into an append-only file.');
        file.append(data.slice());
      },
    }),
  );
  const output = new Output({ format: new MkvOutputFormat({ appendOnly: true }), target });
  const configuration = head.configuration;
  if (configuration.type === 'events') throw new Error('Events are not media.');
  const video = codecOfString(configuration.codec);
  const codec = video ? MUX_VIDEO[video] : MUX_AUDIO[configuration.codec];
  const source =
    configuration.type === 'video'
      ? new EncodedVideoPacketSource(codec as MuxVideoCodec)
      : new EncodedAudioPacketSource(codec as AudioCodec);
  if (source instanceof EncodedVideoPacketSource) output.addVideoTrack(source);
  else output.addAudioTrack(source);
  await output.start();
  let tail: Promise<unknown> = Promise.resolve();
  return {
    add: ({ data, key, tUs, durationUs }, meta, written) => {
      const packet = new EncodedPacket(data, key ? 'key' : 'delta', tUs / 1e6, durationUs / 1e6);
      tail = tail
        .then(() => {
          if (mustFail(head.track, 'muxer')) throw new Error('The packet could not be written.');
          return (source as EncodedVideoPacketSource).add(packet, meta as EncodedVideoChunkMetadata);
        })
        .then(written, onError);
    },
    close: async () => {
      await tail;
      // An empty segment has no header to finish.
      await output.finalize().catch(() => undefined);
    },
  };
}
