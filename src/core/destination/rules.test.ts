import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CONTAINER_NAMES, DESTINATIONS, type Destination } from './destination';
import { checkRules, type MeasuredFile } from './rules';

/** A file as the place wants it, to the letter. */
function wantedBy({ container, video, sound, maxBytes, maxDurationS }: Destination): MeasuredFile {
  const { shape, box } = video;
  const width = box?.width ?? 1280;
  return {
    container,
    containerName: CONTAINER_NAMES[container],
    bytes: maxBytes ?? 1e6,
    durationUs: (maxDurationS ?? 10) * 1e6,
    fastStart: true,
    video: {
      codec: video.codecs[0] ?? 'h264',
      profile: video.h264?.profiles[0] ?? 'High',
      level: video.h264?.maxLevel ?? 40,
      width: shape ? Math.round(((box?.height ?? 720) * shape.width) / shape.height) : width,
      height: box?.height ?? 720,
      pixelFormat: video.pixelFormat ?? 'yuv420p',
      squarePixels: true,
      progressive: true,
      constantRate: true,
      rate: video.frameRate.max ?? { num: 30, den: 1 },
      frames: 300,
      longestKeyframeGapS: video.keyframeEveryS ?? 5,
    },
    sound: {
      codec: sound.codec === 'pcm' ? 'pcm_s24le' : sound.codec,
      channels: sound.channels,
      sampleRate: sound.sampleRate,
      lufs: sound.loudness?.lufs ?? -16,
      truePeakDbtp: sound.loudness?.truePeakDbtp ?? -1,
    },
    videoStreams: 1,
    soundStreams: 1,
  };
}

it.each(DESTINATIONS.map((destination) => [destination.name, destination] as const))(
  '%s: a file made to its rules meets all of them, and what was measured is spelled as what is allowed',
  (_, destination) => {
    const results = checkRules(destination, wantedBy(destination));
    expect(results.filter(({ met }) => !met)).toEqual([]);
    for (const { name, measured, allowed } of results) {
      const bare = allowed.replace(/^at most /, '').replace(/ ± .*/, '');
      if (name === 'Loudness') expect(Number.parseFloat(measured)).toBe(Number.parseFloat(bare));
      else if (name === 'True peak') expect(measured).toMatch(/^-?\d+\.\d dBTP$/);
      else expect(bare.split(' or '), name).toContain(measured);
    }
  },
);

const damages: [rule: string, damage: (file: MeasuredFile) => void][] = [
  ['container', (file) => Object.assign(file, { container: 'other', containerName: 'AVI' })],
  ['video-codec', ({ video }) => video && Object.assign(video, { codec: 'mpeg4' })],
  ['square-pixels', ({ video }) => video && Object.assign(video, { squarePixels: false })],
  ['progressive', ({ video }) => video && Object.assign(video, { progressive: false })],
  ['sound-codec', ({ sound }) => sound && Object.assign(sound, { codec: 'mp3' })],
  ['channels', ({ sound }) => sound && Object.assign(sound, { channels: 6 })],
  ['sample-rate', ({ sound }) => sound && Object.assign(sound, { sampleRate: 22_050 })],
  ['one-picture', (file) => Object.assign(file, { videoStreams: 2 })],
  ['one-sound', (file) => Object.assign(file, { soundStreams: 2 })],
];

it('every damage is named by its own rule, and by no other', () => {
  fc.assert(
    fc.property(fc.constantFrom(...DESTINATIONS), fc.subarray(damages), (destination, done) => {
      const file = wantedBy(destination);
      for (const [, damage] of done) damage(file);
      const broken = checkRules(destination, file).flatMap(({ rule, met }) => (met ? [] : [rule]));
      const named = damages.map(([rule]) => rule);
      // A codec that is not asked for has no profile and level to be judged.
      expect(broken.filter((rule) => named.includes(rule)).sort()).toEqual(done.map(([rule]) => rule).sort());
      for (const { met, remedy } of checkRules(destination, file)) if (!met) expect(remedy).not.toBe('');
    }),
  );
});
