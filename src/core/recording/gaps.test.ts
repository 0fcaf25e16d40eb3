import { expect, it } from 'vitest';
import { byItself } from './by-itself';
import { faultSentence } from './fault-sentence';
import { gapSentence, trackGaps } from './gaps';

const S = 1_000_000;
const segment = (track: 'screen' | 'camera' | 'voice', fromS: number, toS: number) => ({
  track,
  startUs: fromS * S,
  endUs: toS * S,
});

it('finds what each track misses: at its start, between its segments, at its end', () => {
  const gaps = trackGaps(
    [segment('camera', 2, 5), segment('camera', 7, 10), segment('voice', 0, 8.2), segment('screen', 0, 10)],
    10 * S,
  );
  expect(gaps.map(gapSentence)).toEqual([
    'Camera: no signal from 0:00 to 0:02.',
    'Camera: no signal from 0:05 to 0:07.',
    'Voice: no signal from 0:08 to 0:10.',
  ]);
  // The next picture, the next chunk: no absence.
  expect(trackGaps([segment('voice', 0, 4), segment('voice', 4.14, 10)], 10 * S)).toEqual([]);
});

it('misses a track that was asked for and never came from beginning to end', () => {
  const gaps = trackGaps([segment('screen', 0, 10)], 10 * S, [], ['screen', 'voice']);
  expect(gaps.map(gapSentence)).toEqual(['Voice: no signal from 0:00 to 0:10.']);
});

it('says of a gap that a fault has made that nothing was recorded: the source was there', () => {
  const segments = [segment('camera', 0, 5), segment('camera', 7, 10)];
  const at = (tUs: number, track: 'camera' | 'voice' = 'camera') =>
    trackGaps(segments, 10 * S, [{ track, tUs }]).map(gapSentence);
  expect(at(5.5 * S)).toEqual(['Camera: not recorded from 0:05 to 0:07.']);
  expect(at(4 * S)).toEqual(['Camera: no signal from 0:05 to 0:07.']);
  expect(at(5.5 * S, 'voice')).toEqual(['Camera: no signal from 0:05 to 0:07.']);
});

it('tells of a track that nothing could save only that it ended, and of the others everything', () => {
  const fault = (tUs: number, role: string, by: string) => ({
    kind: 'fault',
    tUs,
    data: { role, part: 'encoder', by },
  });
  expect(
    byItself([
      fault(2 * S, 'screen', 'same'),
      fault(50 * S, 'screen', 'same'),
      fault(50.5 * S, 'camera', 'same'),
      fault(51 * S, 'screen', 'software'),
      fault(52 * S, 'screen', 'end'),
    ]),
  ).toEqual([
    'Screen: the encoder failed at 0:02; a new encoder took over.',
    'Camera: the encoder failed at 0:50; a new encoder took over.',
    'Screen: the encoder failed at 0:52; the track ends there.',
  ]);
});

it('tells each fault in a sentence, and none of what it does not know', () => {
  const fault = (data: Record<string, string>) => faultSentence({ kind: 'fault', tUs: 63 * S, data });
  expect(fault({ role: 'screen', part: 'encoder', by: 'same' })).toBe(
    'Screen: the encoder failed at 1:03; a new encoder took over.',
  );
  expect(fault({ role: 'voice', part: 'file', by: 'same' })).toBe(
    'Voice: the file could not be written at 1:03; a new file was started.',
  );
  expect(fault({ role: 'camera', part: 'muxer', by: 'end' })).toBe(
    'Camera: the muxer failed at 1:03; the track ends there.',
  );
  expect(fault({ role: 'tuba', part: 'muxer', by: 'end' })).toBeNull();
  expect(fault({ role: 'voice', part: 'muxer', by: 'magic' })).toBeNull();
  expect(
    byItself([
      { kind: 'mark', tUs: 0, data: {} },
      { kind: 'fault', tUs: 5 * S, data: { role: 'screen', part: 'encoder', by: 'software' } },
      { kind: 'limit', tUs: 9 * S, data: { lengthS: 9 } },
    ]),
  ).toEqual([
    'Screen: the encoder failed at 0:05; a software encoder took over.',
    'The take ended at its limit of 9 s.',
  ]);
});
