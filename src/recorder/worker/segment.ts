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
import type { SegmentHead } from '@/core/recording/take';
import { partName, type SegmentLine } from '../journal';
import { type JournalFile, line, openJournalFile } from './journal-file';

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
  /** @param meta the encoder's own description; needed with the first packet */
  readonly add: (packet: Packet, meta?: PacketMeta) => void;
  readonly close: () => Promise<void>;
};

/** What a segment needs from the take it belongs to. */
export type TakeFiles = {
  readonly folder: FileSystemDirectoryHandle;
  readonly log: (entry: SegmentLine) => void;
  readonly onWriteError: (error: unknown) => void;
  /** How long a segment of a long track is; tests make it short. */
  readonly segmentUs?: number;
};

const MUX_VIDEO: Record<VideoCodec, MuxVideoCodec> = { h264: 'avc', vp9: 'vp9', av1: 'av1' };
const MUX_AUDIO: Record<string, AudioCodec> = { opus: 'opus', 'pcm-s16': 'pcm-s16', 'pcm-s24': 'pcm-s24' };

/**
 * Begins a segment: one track in one Matroska file, so that no track ever waits for another. Blocks go to the file as they
 * come (append only, nothing is ever written back), which is what survives a crash.
 */
export function openSegment(head: SegmentHead, files: TakeFiles): Segment {
  const open = (part: 'media' | 'index') =>
    openJournalFile(files.folder, partName(head.id, part), files.onWriteError);
  let opened: { media: JournalFile; index: JournalFile; writer: Matroska | null } | null = null;
  /** Packets that came before the files were open: encoding need not wait for the disk. */
  let early: [Packet, PacketMeta?][] = [];
  const add = (packet: Packet, meta?: PacketMeta) => {
    if (!opened) {
      early.push([packet, meta]);
      return;
    }
    if (opened.writer) opened.writer.add(packet, meta);
    else opened.media.append(packet.data);
    opened.index.append(line(`${packet.tUs} ${packet.data.length} ${packet.key ? 1 : 0}`));
  };
  files.log({ open: head });
  const opening = (async () => {
    const [media, index] = await Promise.all([open('media'), open('index')]);
    const writer = head.configuration.type === 'events' ? null : await matroska(head, media);
    opened = { media, index, writer };
    for (const [packet, meta] of early) add(packet, meta);
    early = [];
    return opened;
  })();
  opening.catch(files.onWriteError);
  return {
    head,
    bytes: () => (opened ? opened.media.length() + opened.index.length() : 0),
    unwritten: () => (opened ? opened.media.unwritten() + opened.index.unwritten() : 0),
    add,
    close: async () => {
      const { media, index, writer } = await opening;
      await writer?.close();
      media.close();
      index.close();
      files.log({ closed: head.id, media: media.length(), index: index.length() });
    },
  };
}

export type PacketMeta = EncodedVideoChunkMetadata | EncodedAudioChunkMetadata;
type Matroska = { add: (packet: Packet, meta?: PacketMeta) => void; close: () => Promise<void> };

async function matroska(head: SegmentHead, file: JournalFile): Promise<Matroska> {
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
  let broken: unknown;
  return {
    add: ({ data, key, tUs, durationUs }: Packet, meta?: PacketMeta) => {
      const packet = new EncodedPacket(data, key ? 'key' : 'delta', tUs / 1e6, durationUs / 1e6);
      tail = tail
        .then(() => (source as EncodedVideoPacketSource).add(packet, meta as EncodedVideoChunkMetadata))
        .catch((error) => {
          broken ??= error;
        });
    },
    close: async () => {
      await tail;
      if (broken) console.error('A segment could not be written whole.', broken);
      // An empty segment has no header to finish.
      await output.finalize().catch(() => undefined);
    },
  };
}
