import fc from 'fast-check';
import { expect, test } from 'vitest';
import { newSegmentId } from '../base/ids';
import { SegmentHead } from '../recording/take';
import { type FoundMedia, recognizeTracks } from './recognize-tracks';

const video = (width: number, height: number, startUs = 0): FoundMedia => ({
  id: newSegmentId(),
  startUs,
  encoderDelayUs: 0,
  media: { type: 'video', codec: 'avc1.640028', width, height, bitrateKbps: 2000 },
});
const audio = (channels: number, startUs = 0): FoundMedia => ({
  id: newSegmentId(),
  startUs,
  encoderDelayUs: 6500,
  media: { type: 'audio', codec: 'opus', sampleRate: 48_000, channels, bitrateKbps: 96 },
});
const tracks = (found: FoundMedia[]) => recognizeTracks(found).map(({ track }) => track);

test('the larger picture is the screen, one channel the voice, two channels the app sound', () => {
  expect(tracks([video(640, 360), video(1920, 1080)])).toEqual(['camera', 'screen']);
  expect(tracks([audio(2), audio(1)])).toEqual(['app-sound', 'voice']);
  expect(tracks([audio(2)])).toEqual(['voice']);
  expect(tracks([{ ...video(640, 360), media: { type: 'events' } }])).toEqual(['events']);
});

test('a screen that changed its size stays one track, in the order of time', () => {
  const [second, first] = [video(1280, 800, 4_000_000), video(1280, 720)];
  const heads = recognizeTracks([second, first]);
  expect(heads.map(({ id, track, index }) => [id, track, index])).toEqual([
    [first.id, 'screen', 0],
    [second.id, 'screen', 1],
  ]);
});

test('a name wins over a guess', () => {
  expect(tracks([{ ...audio(1), named: 'app-sound' }, audio(1)])).toEqual(['app-sound', 'voice']);
});

test('every file gets a head that the server takes, and no two share a track and index', () => {
  const any = fc.array(
    fc.oneof(
      fc
        .tuple(fc.integer({ min: 2, max: 4000 }), fc.integer({ min: 2, max: 4000 }), fc.nat(9e9))
        .map(([w, h, us]) => video(w, h, us)),
      fc.tuple(fc.integer({ min: 1, max: 2 }), fc.nat(9e9)).map(([channels, us]) => audio(channels, us)),
    ),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(any, (found) => {
      const heads = recognizeTracks(found);
      expect(heads.map(({ id }) => id).sort()).toEqual(found.map(({ id }) => id).sort());
      for (const head of heads) expect(SegmentHead.safeParse(head).success).toBe(true);
      expect(new Set(heads.map(({ track, index }) => `${track} ${index}`)).size).toBe(heads.length);
    }),
  );
});
