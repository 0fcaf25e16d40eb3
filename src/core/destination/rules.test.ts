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

/** What a rule is about, at its limit and one step beyond. */
const limits: [
  rule: string,
  isAsked: (destination: Destination) => boolean,
  set: (file: MeasuredFile, destination: Destination, beyond: boolean) => void,
][] = [
  [
    'bytes',
    ({ maxBytes }) => maxBytes !== null,
    (file, { maxBytes }, beyond) => Object.assign(file, { bytes: (maxBytes ?? 0) + Number(beyond) }),
  ],
  [
    'length',
    ({ maxDurationS }) => maxDurationS !== null,
    // The last block of sound may end a tenth of a second later.
    (file, { maxDurationS }, beyond) =>
      Object.assign(file, { durationUs: (maxDurationS ?? 0) * 1e6 + 100_000 + Number(beyond) }),
  ],
  [
    'level',
    ({ video }) => video.h264 !== null && video.codecs[0] === 'h264',
    ({ video }, { video: asked }, beyond) =>
      video && Object.assign(video, { level: (asked.h264?.maxLevel ?? 0) + Number(beyond) }),
  ],
  [
    'frame-rate',
    ({ video }) => video.frameRate.max !== null,
    ({ video }, { video: asked }, beyond) => {
      const { num, den } = asked.frameRate.max ?? { num: 1, den: 1 };
      if (video) video.rate = beyond ? { num: num + den, den } : { num, den };
    },
  ],
  [
    'keyframes',
    ({ video }) => video.keyframeEveryS !== null,
    ({ video }, { video: asked }, beyond) => {
      if (video) video.longestKeyframeGapS = (asked.keyframeEveryS ?? 0) + (beyond ? 0.06 : 0);
    },
  ],
  [
    'loudness',
    ({ sound }) => sound.loudness !== null,
    ({ sound }, { sound: asked }, beyond) => {
      const { lufs = 0, toleranceLu = 0 } = asked.loudness ?? {};
      if (sound) sound.lufs = lufs + toleranceLu + (beyond ? 0.1 : 0);
    },
  ],
  [
    'true-peak',
    ({ sound }) => sound.loudness !== null,
    ({ sound }, { sound: asked }, beyond) => {
      if (sound) sound.truePeakDbtp = (asked.loudness?.truePeakDbtp ?? 0) + (beyond ? 0.1 : 0);
    },
  ],
  [
    'size',
    ({ video }) => video.box !== null && video.shape === null,
    ({ video }, { video: asked }, beyond) => {
      if (video && asked.box)
        Object.assign(video, { ...asked.box, width: asked.box.width + (beyond ? 2 : 0) });
    },
  ],
];

it.each(limits)('%s: met at its limit, broken one step beyond, by itself', (rule, isAsked, set) => {
  const asking = DESTINATIONS.filter(isAsked);
  expect(asking).not.toEqual([]);
  for (const destination of asking)
    for (const beyond of [false, true]) {
      const file = wantedBy(destination);
      set(file, destination, beyond);
      const broken = checkRules(destination, file).flatMap(({ rule, met }) => (met ? [] : [rule]));
      expect(broken, `${destination.name}, ${beyond ? 'beyond' : 'at'} the limit`).toEqual(
        beyond ? [rule] : [],
      );
    }
});

it('a sound track without sound breaks its rules; a video that was recorded without any does not', () => {
  for (const destination of DESTINATIONS) {
    const silent: MeasuredFile = { ...wantedBy(destination), sound: null, soundStreams: 0 };
    expect(checkRules(destination, silent).filter(({ met }) => !met)).toEqual([]);
    const broken = checkRules(destination, silent, 'sound').filter(({ met }) => !met);
    expect(broken.map(({ rule }) => rule)).toEqual(['one-sound']);
  }
});
