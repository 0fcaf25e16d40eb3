// Moving only the ends: what it costs beside encoding all of it, whether a frame is missing, whether the middle is what was recorded.

import { join } from 'node:path';
import type { Cut } from '@/core/cut/cut';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { readCardFilm, text } from '../../tests/support/card-film';
import { bench, quick } from './bench';
import { cpuSeconds } from './commands';
import { makeHere, wholeCut, withRecorded } from './parcels';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' } },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
};

const goals = {
  most: { cpuRatio: 0.1, soundAgainCpuRatio: 0.1, framesMissing: 0 },
  least: { middleIdentical: 1 },
};

bench('smartcut', goals, ({ url, data }) =>
  withRecorded(url, RIG, quick ? 12 : 90, async (recorded) => {
    const whole = wholeCut(recorded);
    const [step] = whole.steps;
    const untouched = DESTINATIONS.find(({ id }) => id === 'as-recorded');
    if (!step || !untouched) throw new Error('There is nothing to cut, or nowhere to bring it.');
    const [inUs, outUs] = [1_300_000, recorded.durationUs - 1_700_000];
    const cut: Cut = { ...whole, steps: [{ ...step, pieces: [{ take: recorded.take, inUs, outUs }] }] };
    // Keyframes closer than they were recorded: all of it must be encoded.
    const reencoded: Destination = { ...untouched, video: { ...untouched.video, keyframeEveryS: 1.5 } };
    // Both find the take's file looked at already, and every module loaded.
    await import('@/server/tasks/render-parcel');
    const { foreseeParcel } = await import('@/server/delivery/parcels');
    await foreseeParcel(recorded.lesson, untouched);
    const timed = async (cut: Cut, to: Destination) => {
      const before = cpuSeconds();
      const made = await makeHere(recorded, cut, to);
      return { ...made, cpuS: cpuSeconds() - before };
    };
    const smart = await timed(cut, untouched);
    const full = await timed(cut, reencoded);
    // A second less in the middle: two pieces, over whose joint the sound is crossfaded, so that all of it is encoded again.
    const middleUs = Math.round((inUs + outUs) / 2);
    const pieces = [
      { take: recorded.take, inUs, outUs: middleUs - 500_000 },
      { take: recorded.take, inUs: middleUs + 500_000, outUs },
    ];
    const soundAgain = await timed({ ...whole, steps: [{ ...step, pieces }] }, untouched);
    const path = join(data, 'media', 'parcels', smart.id, smart.facts.files[0]?.name ?? '');
    const plain = join(data, 'media', 'takes', recorded.take, 'plain.mp4');
    const source = await readCardFilm(plain);
    const seen = new Set((await readCardFilm(path)).map(({ frame }) => frame));
    const frameUs = 33_334;
    const wanted = source.filter(({ ptsUs }) => ptsUs >= inUs + frameUs && ptsUs < outUs - frameUs);
    const [packets, own] = [new Set(await hashes(plain)), await hashes(path)];
    const kept = own.filter((hash) => packets.has(hash)).length;
    return {
      cpuRatio: smart.cpuS / full.cpuS,
      soundAgainCpuRatio: soundAgain.cpuS / full.cpuS,
      framesMissing: wanted.filter(({ frame }) => !seen.has(frame)).length,
      middleIdentical: kept / own.length >= smart.facts.copiedShare - 0.005 ? 1 : 0,
      copiedShare: smart.facts.copiedShare,
      soundAgainCopiedShare: soundAgain.facts.copiedShare,
      smartCpuS: smart.cpuS,
      fullCpuS: full.cpuS,
      smartS: smart.seconds,
      fullS: full.seconds,
    };
  }),
);

/** What each packet of the picture holds. */
async function hashes(path: string): Promise<string[]> {
  const args = ['-v', 'error', '-select_streams', 'v:0', '-show_data_hash', 'sha256'];
  const said = await text('ffprobe', [...args, '-show_entries', 'packet=data_hash', '-of', 'csv=p=0', path]);
  return said.trim().split('\n');
}
