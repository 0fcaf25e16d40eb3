import { expect, it } from 'vitest';
import type { SegmentHead } from '@/core/recording/take';
import { fakeFiles } from './fakes/fake-file';
import type { Recovery } from './fault';
import { newRecording } from './recording';
import { openSoundWriter } from './sound-writer';

const SHAPE = { sampleRate: 48_000, channels: 1 };
const FRAMES = 960;

type Flaw = 'configure' | 'put' | 'finish' | null;

/** A sound writer whose Opus encoders have these flaws, one after the other; each packet is one chunk, at once. */
function writing(flaws: Flaw[] = [], codec: 'opus' | 'pcm' = 'opus') {
  const files = fakeFiles();
  const recovery: Recovery[] = [];
  const recording = newRecording(0, { folder: {} as never, log: () => undefined, onFull: () => undefined });
  let opened = 0;
  const writer = openSoundWriter(
    {
      role: 'voice',
      sound: { codec, sampleRate: null, kbps: 96, channels: 1, treatment: null },
      clock: { offset: () => ({ offsetUs: 0, how: 'declared' }) } as never,
      nowUs: () => 0,
      onRecovery: (one) => recovery.push(one),
    },
    {
      openFile: files.open,
      opus: (open, originUs, sampleRate) => {
        const flaw = flaws[opened++] ?? null;
        if (flaw === 'configure') throw new Error('Refused.');
        let segment: ReturnType<typeof open> | null = null;
        let placed = 0;
        return {
          put: ([plane]) => {
            if (flaw === 'put') throw new Error('Torn.');
            segment ??= open(0);
            const tUs = Math.round(originUs + (placed * 1e6) / sampleRate);
            segment.add({ data: new Uint8Array(1), key: true, tUs, durationUs: 20_000 });
            placed += plane?.length ?? 0;
          },
          finish: () => (flaw === 'finish' ? Promise.reject(new Error('Torn.')) : Promise.resolve()),
          close: () => undefined,
        };
      },
    },
  );
  const put = (chunk: number) =>
    writer.put(recording, [new Float32Array(FRAMES)], (chunk * FRAMES * 1e6) / SHAPE.sampleRate, SHAPE);
  const codecs = () =>
    files.opened.map(
      ({ head }) => (head.configuration as SegmentHead['configuration'] & { codec: string }).codec,
    );
  return { writer, files, recovery, put, codecs };
}

it('gives the samples that a failed encoder did not take to the next one: none is missing and none is twice', async () => {
  const { writer, files, recovery, put, codecs } = writing([null, 'put', 'configure', null]);
  for (const chunk of [0, 1]) put(chunk);
  files.opened[0]?.fail({ part: 'muxer', error: new Error('torn') });
  for (const chunk of [2, 3]) put(chunk);
  await writer.close();
  expect(files.opened.flatMap(({ packets }) => packets.map(({ tUs }) => tUs))).toEqual([
    0, 20_000, 40_000, 60_000,
  ]);
  expect(recovery.map(({ by }) => by)).toEqual(['same', 'software', 'other-codec']);
  // What nothing encodes any more is kept as it is.
  expect(codecs()).toEqual(['opus', 'pcm-s16']);
  expect(files.opened.map(({ head }) => head.startUs)).toEqual([0, 40_000]);
  expect(files.opened.every(({ closed }) => closed)).toBe(true);
});

it('closes its files although an encoder cannot be emptied', async () => {
  const { writer, files, put, recovery } = writing(['finish']);
  put(0);
  await expect(writer.close()).resolves.toBeUndefined();
  expect(files.opened[0]?.closed).toBe(true);
  expect(recovery).toEqual([]);
});

it('ends the track when its files fail again and again, and takes what comes after without a word', async () => {
  const { writer, files, put, recovery } = writing([], 'pcm');
  for (let chunk = 0; chunk < 6; chunk++) {
    put(chunk);
    files.opened.at(-1)?.fail({ part: 'file', error: new Error('gone') });
  }
  expect(recovery.map(({ by }) => by)).toEqual([
    'same',
    'software',
    'end',
    ...recovery.slice(3).map(({ by }) => by),
  ]);
  expect(files.opened.length).toBe(3);
  await writer.close();
  expect(files.opened.every(({ closed }) => closed)).toBe(true);
});
