// A rig and facts for each finder, in which it finds something.

import { roomFor } from '@/core/base/free-space';
import { newStoreId, StoreId } from '@/core/base/ids';
import { type Facts, NO_FACTS } from '@/core/findings/finding';
import type { Weight } from '@/core/findings/preflight';
import { COLUMNS, NO_ACTIVITY, ROWS } from '@/core/layout/activity';
import { PRACTICE_RIG, type Rig, type Surface } from '@/core/rig/rig';
import { withValue } from '@/core/rig/rig-values';
import { rehearsed as aRehearsal, slowEncoder } from './made-up-rehearsal';

export const source = { width: 1920, height: 1080 };
export const open = { state: 'open' as const };
export const READY: Facts = {
  ...NO_FACTS,
  sources: { screen: { ...open, size: source }, camera: open, voice: open },
};
export const RIG: Rig = withValue(PRACTICE_RIG, 'picture.box', null);
export const screen = (meant: Surface) => withValue(RIG, 'picture.source', { from: 'screen', meant });
const device = { from: 'device', id: 'desk', label: 'Desk microphone' } as const;
export const speed = (codec: 'h264' | 'av1', framesPerSecond: number) => ({
  codec,
  textHint: false,
  framesPerSecond,
  kbps: codec === 'av1' ? 500 : 2000,
  hardware: null,
  quantizer: codec === 'av1',
  constantOverAverage: 1,
});
export const marks = { legibilityKbps: 1100, saturationKbps: 4600, trials: [] };
const without = (role: 'screen' | 'camera' | 'voice', state: object): Facts => ({
  ...READY,
  sources: { ...READY.sources, [role]: { ...READY.sources[role], ...state } },
});

const HEARD = { shortTermLufs: -18, quietLufs: -70, peakDbtp: -6, clipped: 0, hum: null, oneChannel: null };

/** Something changes all the time, in one place of the source. */
function busyAt(x: number, y: number): Facts['activity'] {
  const changes = NO_ACTIVITY.changes.map((_, i) => {
    const [column, row] = [i % COLUMNS, Math.floor(i / COLUMNS)];
    return Number(column === Math.floor(x * COLUMNS) && row === Math.floor(y * ROWS)) * 9;
  });
  return { ...NO_ACTIVITY, changes, looks: 10 };
}

/** By the finder's name: a rig and facts in which it finds something, what its sentence says, and whether one click fixes it. */
export const CASES: Record<string, [rig: Rig, facts: Facts, weight: Weight, says: RegExp, fixes: boolean]> = {
  browserLacks: [
    RIG,
    { ...READY, browser: { code: 'browser-lacks', message: 'This browser lacks locks.' } },
    'stop',
    /lacks locks/,
    false,
  ],
  sourcesNotReady: [
    screen('display'),
    { ...READY, sources: { voice: open } },
    'stop',
    /No source is shared yet: choose one/,
    true,
  ],
  levelBroken: [
    withValue(RIG, 'picture.level', '3.1'),
    READY,
    'stop',
    /level 3\.1 does not allow a picture of 1920 × 1080/,
    true,
  ],
  voiceClips: [
    RIG,
    without('voice', { heard: { ...HEARD, clipped: 3 } }),
    'warn',
    /The voice clipped 3 times/,
    false,
  ],
  roomNoise: [
    RIG,
    without('voice', { heard: { ...HEARD, quietLufs: -44 } }),
    'note',
    /Room noise is at −44 LUFS, 26 LU below the voice/,
    false,
  ],
  hum: [
    RIG,
    without('voice', { heard: { ...HEARD, hum: { hertz: 50, levelDb: -48 } } }),
    'note',
    /Mains hum at 50 Hz, −48 dBFS/,
    true,
  ],
  wrongMicrophone: [
    RIG,
    without('voice', {
      test: {
        label: 'Far one',
        at: '2026-05-04T10:00:00Z',
        lufs: -45,
        peakDbtp: -30,
        roomLufs: -60,
        clipped: 0,
        hum: null,
        keptBytes: 40_000,
        others: [{ source: { from: 'practice', id: 'beep' }, label: 'Near one', lufs: -20 }],
      },
    }),
    'warn',
    /“Near one” picked you up 25 LU louder than “Far one”/,
    true,
  ],
  oneMicrophone: [
    withValue(RIG, 'voice.channels', 2),
    without('voice', { heard: { ...HEARD, oneChannel: 'same' } }),
    'warn',
    /Both channels of the voice are identical/,
    true,
  ],
  rateLow: [
    withValue(RIG, 'sound.sampleRate', 16_000),
    READY,
    'note',
    /everything above 8 kHz is lost; 5 of 5 destinations use 48 kHz/,
    true,
  ],
  moreThanSource: [
    withValue(RIG, 'sound.codec', 'pcm-24'),
    without('voice', { gives: { sampleRate: 48_000, bits: 16 } }),
    'note',
    /The microphone delivers 16 bit: recording 24 bit adds/,
    true,
  ],
  unsafeName: [
    withValue(RIG, 'names.pattern', '{lesson}: part 1?'),
    READY,
    'note',
    /the signs : \?, which some systems reject/,
    false,
  ],
  finalStore: [
    withValue(RIG, 'stores.final', newStoreId()),
    {
      ...READY,
      store: {
        id: StoreId.parse('A'.repeat(22)),
        name: 'Shelf',
        folder: '/srv/shelf',
        problem: 'there is no such folder',
        freeBytes: null,
        bytesPerSecond: null,
      },
    },
    'warn',
    /The store “Shelf” cannot be used: there is no such folder/,
    true,
  ],
  containerRefuses: [
    withValue(RIG, 'formats', ['webm']),
    READY,
    'warn',
    /No WebM will be made\. WebM holds VP9 and AV1; this is H\.264/,
    true,
  ],
  appSoundClose: [
    RIG,
    {
      ...READY,
      sources: {
        ...READY.sources,
        voice: { ...open, heard: HEARD },
        'app-sound': { ...open, heard: { ...HEARD, shortTermLufs: -10 } },
      },
    },
    'warn',
    /App sound is only 4 LU under the voice/,
    true,
  ],
  wrongSurface: [
    screen('window'),
    without('screen', { shared: 'display' }),
    'warn',
    /You chose one window but shared a whole display/,
    true,
  ],
  outsideWindow: [
    withValue(RIG, 'picture.source', { from: 'practice', id: 'window-log' }),
    {
      ...without('screen', { size: { width: 1160, height: 720 } }),
      outside: {
        of: 'window-log',
        names: ['its list of varieties'],
        instead: { display: 'desk', region: { x: 720, y: 40, width: 1160, height: 720 } },
      },
    },
    'note',
    /missing: its list of varieties/,
    true,
  ],
  cameraOverChanges: [
    RIG,
    { ...READY, activity: busyAt(0.9, 0.9) },
    'warn',
    /covers 100 % of the recent activity/,
    true,
  ],
  permissionRefused: [
    withValue(RIG, 'camera.source', device),
    { ...READY, permissions: { camera: false, microphone: null } },
    'warn',
    /does not let the studio use the camera/,
    true,
  ],
  deviceMissing: [
    withValue(RIG, 'voice.source', device),
    without('voice', { insteadOf: 'Desk microphone' }),
    'warn',
    /Desk microphone is not connected; the browser’s default is used/,
    true,
  ],
  rehearsed: [
    RIG,
    {
      ...READY,
      rehearsal: { of: aRehearsal({ rig: RIG, trace: slowEncoder(60) }), ago: 'an hour ago' },
    },
    'warn',
    /^Rehearsed an hour ago: the encoder cannot sustain 30 fps/,
    false,
  ],
  tooSlow: [
    withValue(RIG, 'picture.codec', 'av1'),
    { ...READY, speeds: [speed('av1', 8), speed('h264', 61)] },
    'warn',
    /AV1 is too slow here: it sustains 8 fps, the target is 30/,
    true,
  ],
  bitrateOffMarks: [
    withValue(RIG, 'picture.bitrateKbps', 600),
    { ...READY, marks },
    'warn',
    /Text breaks up at 600 kb\/s: this source needs 1\.10 Mb\/s/,
    true,
  ],
  oddSize: [
    withValue(RIG, 'picture.box', { width: 853, height: 480 }),
    READY,
    'warn',
    /cannot be 853 × 480/,
    true,
  ],
  upscaling: [
    withValue(RIG, 'picture.box', source),
    without('screen', { size: { width: 1366, height: 768 } }),
    'warn',
    /1920 × 1080 is larger than the source.*1366 × 768/,
    true,
  ],
  regionMoved: [
    withValue(RIG, 'picture.aim', { x: 1500, y: 100, width: 640, height: 360 }),
    READY,
    'warn',
    /extends beyond the source \(1920 × 1080\): 640 × 360 at 1280, 100 is recorded/,
    true,
  ],
  stretched: [
    { ...RIG, picture: { ...RIG.picture, box: { width: 1080, height: 1080 }, fit: 'stretch' } },
    READY,
    'warn',
    /everything is 44 % narrower/,
    true,
  ],
  soundOffSpeed: [
    withValue(RIG, 'picture.speed', { num: 1, den: 10 }),
    READY,
    'warn',
    /No sound will be recorded: 10× time-lapse/,
    true,
  ],
  noVoice: [withValue(RIG, 'voice', null), READY, 'warn', /No voice/, true],
  appSoundNotShared: [
    withValue(screen('window'), 'appSound.source', { from: 'screen' }),
    READY,
    'warn',
    /One window cannot share sound/,
    true,
  ],
  cameraSlow: [
    RIG,
    without('camera', { measuredFps: { fps: 12, asked: { width: 640, height: 360 } } }),
    'warn',
    /The camera delivers 12 fps/,
    true,
  ],
  cameraTooLarge: [
    withValue(RIG, 'camera.size', { width: 1280, height: 720 }),
    READY,
    'note',
    /shown 384 px wide/,
    true,
  ],
  textTooSmall: [
    withValue(RIG, 'picture.viewer', 'page'),
    { ...READY, textPx: 15 },
    'warn',
    /will be 5\.0 px tall in a small player in a page: too small to read/,
    true,
  ],
  softened: [PRACTICE_RIG, READY, 'warn', /scaled to 67 %/, true],
  keyframesFar: [
    withValue(RIG, 'picture.keyframeEvery', { unit: 'frames', value: 300 }),
    READY,
    'warn',
    /Keyframes are 10 s apart/,
    true,
  ],
  tooLittleRoom: [
    withValue(RIG, 'plannedLengthS', 720),
    { ...READY, room: { browser: roomFor(200e6, 1e6), server: null } },
    'warn',
    /has space for 2 min of the planned 12 min at the highest bitrate/,
    true,
  ],
  ownWindow: [screen('display'), READY, 'note', /this page is recorded while it is visible there/, true],
};
