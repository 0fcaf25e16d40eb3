import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { VideoSettings } from '../messages';
import { type Flaw, fakeEncoders, fakeFraming } from './fakes/fake-encoder';
import { fakeFiles } from './fakes/fake-file';
import { FakeFrame, fakeFrame } from './fakes/fake-frame';
import type { Recovery } from './fault';
import { openPictureWriter } from './picture-writer';
import { newRecording } from './recording';
import type { ChosenVideo } from './video-config';

const SMALL = { width: 64, height: 48 };
const LARGE = { width: 128, height: 96 };
const SETTINGS = { codec: 'h264', otherCodec: 'vp9', hardware: 'automatic', level: '4', filter: 'browser' };

/** A writer over fakes; `clock.now` moves only when a test moves it. */
function writing(flaws: readonly (Flaw | null)[] = [], settings: object = {}) {
  const encoders = fakeEncoders(flaws);
  const files = fakeFiles();
  const recovery: Recovery[] = [];
  const lost = { encoded: 0, repeated: 0 };
  const asked: VideoSettings[] = [];
  const clock = { now: 0 };
  const recording = newRecording(0, { folder: {} as never, log: () => undefined, onFull: () => undefined });
  const writer = openPictureWriter(
    {
      role: 'screen',
      settings: { ...SETTINGS, ...settings } as unknown as VideoSettings,
      clock: { offset: () => ({ offsetUs: 0, how: 'declared' }) } as never,
      recording: () => recording,
      nowUs: () => clock.now,
      startUs: () => clock.now,
      onPacket: () => undefined,
      onFree: () => undefined,
      onLost: (more) => {
        lost.encoded += more.encoded;
        lost.repeated += more.repeated;
      },
      onRecovery: (one) => recovery.push(one),
      onProblem: (error) => {
        throw error;
      },
    },
    { newEncoder: encoders.open, openFile: files.open, openFraming: fakeFraming, nowMs: () => 0 },
    async (_role, size, chosenFor) => {
      asked.push(chosenFor);
      return {
        encoder: { codec: chosenFor.codec === 'vp9' ? 'vp09.00.10.08' : 'avc1.640028', ...size },
        options: {},
        bitrateKbps: 100,
        textHint: false,
        reason: '',
      } as unknown as ChosenVideo;
    },
  );
  /** Gives one picture, as soon as there is a segment for it. @returns whether there is one */
  const give = async (tUs: number, size = SMALL): Promise<boolean> => {
    if (!writer.forSize(size)) await writer.settled();
    const into = writer.forSize(size);
    if (!into) return false;
    const picture = fakeFrame(size, tUs);
    into.encode(picture, { tUs, keyFrame: into !== last, repeated: false });
    picture.close();
    last = into;
    return true;
  };
  let last: unknown = null;
  const written = () => files.opened.map(({ packets }) => packets.map(({ tUs }) => tUs));
  return { writer, encoders, files, recovery, lost, asked, clock, give, written };
}

describe('a picture track’s writer', () => {
  beforeEach(() => FakeFrame.open.clear());
  // Whatever happens, no picture is kept: a capture that misses some stalls.
  afterEach(() => expect(FakeFrame.open.size).toBe(0));

  it('begins a new segment for another size and loses no picture of the one before', async () => {
    const { give, writer, written, lost, files } = writing();
    for (const tUs of [0, 1, 2]) await give(tUs);
    for (const tUs of [3, 4]) await give(tUs, LARGE);
    await writer.close();
    expect(written()).toEqual([
      [0, 1, 2],
      [3, 4],
    ]);
    expect(files.opened.map(({ head }) => head.index)).toEqual([0, 1]);
    expect(files.opened.every(({ closed }) => closed)).toBe(true);
    expect(lost).toEqual({ encoded: 0, repeated: 0 });
  });

  it('goes on with a new encoder after one has died, and counts what was inside it', async () => {
    const { give, writer, written, encoders, recovery, lost, asked } = writing();
    await give(0);
    encoders.opened[0]?.finish();
    await give(1);
    await give(2);
    encoders.opened[0]?.die();
    await writer.settled();
    expect(recovery).toMatchObject([{ by: 'same', fault: { part: 'encoder' } }]);
    await give(3);
    await writer.close();
    expect(written()).toEqual([[0], [3]]);
    expect(lost).toEqual({ encoded: 2, repeated: 0 });
    expect(asked.at(-1)).toMatchObject({ codec: 'h264', hardware: 'automatic' });
  });

  it('ends what cannot be ended properly: an encoder that is closed, a flush that fails', async () => {
    const dead = writing();
    await dead.give(0);
    dead.encoders.opened[0]?.close();
    await expect(dead.writer.close()).resolves.toBeUndefined();
    expect(dead.files.opened[0]?.closed).toBe(true);
    expect(dead.lost.encoded).toBe(1);

    const torn = writing(['flush']);
    await torn.give(0);
    await torn.give(1);
    torn.encoders.opened[0]?.finish(1);
    await expect(torn.writer.close()).resolves.toBeUndefined();
    expect(torn.written()).toEqual([[0]]);
    expect(torn.lost.encoded).toBe(1);
    expect(torn.recovery).toEqual([]);
  });

  it('tries the same codec, then software at any level, then another codec; then the track ends and closing works', async () => {
    const { give, writer, recovery, asked, files } = writing(['configure', 'configure', 'encode', 'encode']);
    // The third takes its configuration and fails with its first picture, the fourth as well.
    expect(await give(0)).toBe(true);
    await writer.settled();
    expect(await give(1)).toBe(true);
    await writer.settled();
    expect(recovery.map(({ by }) => by)).toEqual(['software', 'other-codec', 'end']);
    expect(asked.map(({ codec, hardware, level }) => [codec, hardware, level])).toEqual([
      ['h264', 'automatic', '4'],
      ['h264', 'automatic', '4'],
      ['h264', 'prefer-software', null],
      ['vp9', 'prefer-software', null],
    ]);
    expect(await give(2)).toBe(false);
    await writer.close();
    // What was refused has no file; what failed has one that is closed.
    expect(files.opened.map(({ head, closed }) => [head.index, closed])).toEqual([
      [0, true],
      [1, true],
    ]);
  });

  it('does not take another codec where the rig asks for one', async () => {
    const { give, writer, recovery } = writing(['configure', 'configure', 'configure'], {
      otherCodec: undefined,
    });
    expect(await give(0)).toBe(false);
    expect(recovery.map(({ by }) => by)).toEqual(['end']);
    await writer.close();
  });

  it('begins a new file when the muxer or the storage fails, and never writes into one that has', async () => {
    const { give, writer, written, files, encoders, recovery, lost } = writing();
    await give(0);
    encoders.opened[0]?.finish();
    files.opened[0]?.fail({ part: 'muxer', error: new Error('torn') });
    await writer.settled();
    await give(1);
    encoders.opened[1]?.finish();
    files.opened[1]?.fail({ part: 'file', error: new Error('gone') });
    await give(2);
    await writer.close();
    expect(written()).toEqual([[0], [1], [2]]);
    expect(recovery.map(({ fault, by }) => [fault.part, by])).toEqual([
      ['muxer', 'same'],
      ['file', 'software'],
    ]);
    expect(lost.encoded).toBe(0);
  });

  it('forgives failures that are far apart', async () => {
    const { give, writer, encoders, recovery, clock } = writing();
    for (let n = 0; n < 8; n++) {
      await give(n);
      encoders.opened[n]?.die();
      await writer.settled();
      clock.now += 11_000_000;
    }
    expect(recovery.map(({ by }) => by)).toEqual(new Array(8).fill('same'));
    await writer.close();
  });
});
