/**
 * Hours of a take in minutes: every picture of the test card with its own number and every sample of its tone, encoded as fast as the
 * encoders take them and written by the recorder's own segments into a journal, which is ended as any other is.
 */
import { newSegmentId } from '@/core/base/ids';
import { frameTimeUs } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import type { SegmentHead, TakeEnd, TakeHead } from '@/core/recording/take';
import { beep, SAMPLE_RATE } from '@/practice/sounds';
import { newStage, show } from '@/practice/stage';
import { cardItems } from '@/practice/test-card';
import { CARD_RATE } from '@/practice/test-card-code';
import { attachSettings } from '../attach-settings';
import { takeFolder, takeLock, writeDocument, writeHead } from '../journal';
import type { MediaRole, SoundSettings, VideoSettings } from '../messages';
import { openEncodedPictures } from '../worker/encoded-pictures';
import { openEncodedSound } from '../worker/encoded-sound';
import { holdLock } from '../worker/hold-lock';
import { line, openJournalFile } from '../worker/journal-file';
import { newRecording, type Recording } from '../worker/recording';
import { chooseVideo } from '../worker/video-config';

export type LongTakeOrder = {
  head: TakeHead;
  seconds: number;
  screen: Size;
  camera: Size;
};

const PICTURES_A_SECOND = CARD_RATE.num / CARD_RATE.den;

/** One track, a second of it at a time. */
type Track = { second: (n: number) => Promise<void> | void; end: () => Promise<unknown> };

const segmentHead = (track: 'screen' | 'camera' | 'voice' | 'app-sound') =>
  ({ id: newSegmentId(), track, startUs: 0, offsetUs: 0, offsetHow: 'declared', continues: false }) as const;

async function openPictures(
  role: 'screen' | 'camera',
  size: Size,
  settings: VideoSettings,
  recording: Recording,
  onEncoded: () => void,
): Promise<Track> {
  const chosen = await chooseVideo(role, size, settings);
  const stage = newStage(size.width, size.height);
  let freed: () => void = () => undefined;
  const pictures = openEncodedPictures({
    head: {
      ...segmentHead(role),
      encoderDelayUs: 0,
      configuration: {
        ...{ type: 'video', codec: chosen.encoder.codec, ...size, bitrateKbps: chosen.bitrateKbps },
        ...{ textHint: chosen.textHint, sourceWidth: size.width, sourceHeight: size.height },
      },
    },
    ...{ source: size, chosen, settings, files: recording.files },
    nextIndex: () => recording.nextIndex(role),
    onPacket: onEncoded,
    onFree: () => freed(),
    onFault: ({ error }) => reportError(error),
  });
  const one = async (n: number) => {
    const tUs = frameTimeUs(n, CARD_RATE);
    show(stage, cardItems(tUs / 1000, size));
    while (!pictures.isFree())
      await new Promise<void>((resolve) => {
        freed = resolve;
      });
    const picture = new VideoFrame(stage.picture.data, {
      ...{ format: 'I420', codedWidth: size.width, codedHeight: size.height, timestamp: tUs },
      duration: frameTimeUs(1, CARD_RATE),
    });
    pictures.encode(picture, { tUs, keyFrame: n % (2 * PICTURES_A_SECOND) === 0, repeated: false });
    picture.close();
  };
  return {
    second: async (n) => {
      for (let i = 0; i < PICTURES_A_SECOND; i++) await one(n * PICTURES_A_SECOND + i);
    },
    end: pictures.end,
  };
}

function openSound(role: 'voice' | 'app-sound', sound: SoundSettings, recording: Recording): Track {
  const written = openEncodedSound({
    head: segmentHead(role),
    sound,
    shape: { sampleRate: SAMPLE_RATE, channels: sound.channels },
    files: recording.files,
    nextIndex: () => recording.nextIndex(role),
    onFault: ({ error }) => reportError(error),
  });
  const samples = new Float32Array(SAMPLE_RATE);
  return {
    second: (n) => {
      beep(n * SAMPLE_RATE, samples);
      written.put(Array.from({ length: sound.channels }, () => samples));
    },
    end: written.end,
  };
}

/** @returns the take's end, which its journal has too */
async function record({ head, seconds, screen, camera }: LongTakeOrder): Promise<TakeEnd> {
  const release = await holdLock(takeLock(head.id));
  const folder = await takeFolder(head.id, true);
  await writeHead(folder, head);
  const log = await openJournalFile(folder, 'segments.jsonl', reportError);
  const opened: SegmentHead[] = [];
  const recording = newRecording(0, {
    folder,
    log: (entry) => {
      if ('open' in entry) opened.push(entry.open);
      log.append(line(JSON.stringify(entry)));
      log.flush();
    },
    onFull: reportError,
  });
  const encoded = { screen: 0, camera: 0 };
  const video = (role: MediaRole) => (attachSettings(role, head.rig, {}) as { video: VideoSettings }).video;
  const sound = (role: MediaRole) => (attachSettings(role, head.rig, {}) as { sound: SoundSettings }).sound;
  const tracks = [
    await openPictures('screen', screen, video('screen'), recording, () => encoded.screen++),
    await openPictures('camera', camera, video('camera'), recording, () => encoded.camera++),
    openSound('voice', sound('voice'), recording),
    openSound('app-sound', sound('app-sound'), recording),
  ];
  for (let n = 0; n < seconds; n++) for (const { second } of tracks) await second(n);
  await Promise.all(tracks.map(({ end }) => end()));
  const ledger = (role: 'screen' | 'camera') => ({
    ...{ askedFps: PICTURES_A_SECOND, arrived: seconds * PICTURES_A_SECOND, encoded: encoded[role] },
    ...{ repeated: 0, skipped: 0, dropped: 0, lostBefore: 0, encodeP50Ms: 0, encodeP95Ms: 0 },
  });
  const end: TakeEnd = {
    durationUs: seconds * 1e6,
    pauses: [],
    ledger: { screen: ledger('screen'), camera: ledger('camera') },
    segments: opened.map(({ id }) => id),
    absent: [],
    cutOff: false,
  };
  log.close();
  await writeDocument(folder, 'end.json', end);
  release();
  return end;
}

self.onmessage = ({ data }: MessageEvent<LongTakeOrder>) => {
  record(data).then(
    (end) => postMessage(end),
    (error) => postMessage({ error: String(error) }),
  );
};
