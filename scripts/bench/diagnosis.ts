// Rehearsals with a fault in one stage, and without any: is the stage named that is at fault, and none where there is none?
import { spawn } from 'node:child_process';
import type { Page } from '@playwright/test';
import type { Stage } from '@/core/rehearsal/diagnosis';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { DiagnosisCase } from '@/ui/lab/diagnosis-bench';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, openLab, quick } from './bench';

type Case = {
  name: string;
  /** Null where nothing is wrong. */
  expected: Stage | null;
  case: DiagnosisCase;
  /** What the connection lets through, bytes a second. */
  uploadBytesPerS?: number;
  /** Other programs that take all of the processor that they get. */
  hogs?: number;
};

const SECONDS = 4;

type Aim = { id: string; width: number; fps: number };
const rigOf = ({ id, width, fps }: Aim, more: Partial<Rig['picture']> = {}): Rig => ({
  ...PRACTICE_RIG,
  camera: null,
  voice: null,
  appSound: null,
  picture: {
    ...PRACTICE_RIG.picture,
    ...{ source: { from: 'practice', id }, aim: 'whole', fit: 'within', filter: 'browser' },
    ...{ box: { width, height: Math.round((width * 9) / 32) * 2 }, textHint: 'off' },
    ...{ frameRate: { num: fps, den: 1 }, codec: 'h264', rateControl: 'average', bitrateKbps: null },
    ...more,
  },
});

const AIMS: readonly Aim[] = [
  { id: 'test-card', width: 640, fps: 30 },
  { id: 'test-card', width: 854, fps: 15 },
  { id: 'presenter', width: 640, fps: 30 },
  { id: 'presenter', width: 640, fps: 20 },
];

const cases: Case[] = [];
const add = (
  name: string,
  expected: Stage | null,
  made: Omit<DiagnosisCase, 'seconds'>,
  rest?: Partial<Case>,
) => cases.push({ name, expected, case: { seconds: SECONDS, ...made }, ...rest });

for (const aim of AIMS) {
  const name = `${aim.id} ${aim.width} ${aim.fps}`;
  const rig = rigOf(aim);
  const budget = 1000 / aim.fps;
  for (const ms of [350, 700, 1200])
    add(`late ${ms}, ${name}`, 'source', { rig, source: { kind: 'late', ms } });
  for (const oneOf of [3, 4])
    add(`one of ${oneOf}, ${name}`, 'source', { rig, source: { kind: 'fewer', oneOf } });
  for (const share of [1.3, 1.8, 2.6])
    add(`compose ${share}, ${name}`, 'composition', { rig, slow: { slow: 'compose', ms: share * budget } });
  for (const share of [1.4, 2, 3])
    add(`encoder ${share}, ${name}`, 'encoder', { rig, slow: { slow: 'encoder', ms: share * budget } });
  // The browser keeps eight frames for a reader that is held up: a write that loses some is longer.
  for (const ms of [9, 12, 16].map((frames) => Math.round(frames * budget)))
    add(`disk ${ms}, ${name}`, 'writing', { rig, slow: { slow: 'file', ms } });
  for (const bytes of [3000, 7000])
    add(
      `network ${bytes}, ${name}`,
      'upload',
      {
        rig: rigOf(aim, { bitrateKbps: 1500, rateControl: 'constant' }),
      },
      { uploadBytesPerS: bytes },
    );
  // Five that are well.
  for (const more of [
    {},
    { bitrateKbps: 800 },
    { codec: 'vp9' as const },
    { keyframeEvery: { unit: 'seconds' as const, value: 1 } },
    { frameRate: { num: 10, den: 1 } },
  ])
    add(`well ${JSON.stringify(more)}, ${name}`, null, { rig: rigOf(aim, more) });
}
// Other programs compete with the encoder for the processor.
for (const hogs of [5, 6, 8, 10])
  add(
    `${hogs} hogs`,
    'encoder',
    { rig: rigOf({ id: 'test-card', width: 1280, fps: 30 }, { textHint: 'on', codec: 'vp9' }) },
    { hogs },
  );
for (const id of ['desk', 'desk-2', 'window-planner'])
  add(`well, ${id}`, null, { rig: rigOf({ id, width: 960, fps: 15 }) });

/** Only cases with this in their names: `--only=hogs`. */
const only = process.argv.find((arg) => arg.startsWith('--only='))?.slice('--only='.length);

const chosen = cases.filter(({ name }, n) => (only ? name.includes(only) : !quick || n % 9 === 0));
const injected = chosen.filter(({ expected }) => expected !== null).length;

bench(
  'diagnosis',
  { most: { falseAlarms: 0 }, least: { rightShare: 0.95, cases: quick ? 1 : 60, clean: quick ? 1 : 20 } },
  ({ url }) =>
    withProfile(async (profile) => {
      const browser = await launch(profile);
      const page = await openLab(browser, url);
      let [right, falseAlarms, named] = [0, 0, 0];
      for (const each of chosen) {
        const said = await run(page, each);
        const first = said.diagnosis.faults[0]?.stage ?? null;
        if (each.expected !== null && first === each.expected) right++;
        if (each.expected !== null && first !== null) named++;
        if (each.expected === null && first !== null) falseAlarms++;
        const mark = first === each.expected ? ' ' : '✗';
        const { onTime, late, dropped, missed, busy } = said.figures;
        console.log(
          `${mark} ${each.name}: ${first ?? 'nothing'} (${each.expected ?? 'nothing'}); ${onTime} + ${late}, ${dropped} dropped, ${missed} missed, ` +
            `compose ${busy?.compose.toFixed(1)} encode ${busy?.encode.toFixed(1)}; ${said.diagnosis.faults.map(({ evidence }) => evidence).join(' ')}`,
        );
      }
      await browser.close();
      return {
        rightShare: right / injected,
        namedShare: named / injected,
        ...{ falseAlarms, cases: injected, clean: chosen.length - injected },
      };
    }),
);

/** One rehearsal, on a connection that is as slow as the case wants it. */
async function run(page: Page, { case: order, uploadBytesPerS, hogs = 0 }: Case) {
  const session = await page.context().newCDPSession(page);
  const throttle = (uploadThroughput: number) =>
    session.send('Network.emulateNetworkConditions', {
      ...{ offline: false, latency: 0, downloadThroughput: -1, uploadThroughput },
    });
  await session.send('Network.enable');
  if (uploadBytesPerS) await throttle(uploadBytesPerS);
  const others = Array.from({ length: hogs }, () =>
    spawn(process.execPath, ['-e', 'for (;;) {}'], { detached: true }),
  );
  try {
    return await page.evaluate((order) => (window as unknown as LabWindow).lab.diagnoseCase(order), order);
  } finally {
    for (const other of others) other.kill('SIGKILL');
    await throttle(-1);
    await session.detach();
  }
}
