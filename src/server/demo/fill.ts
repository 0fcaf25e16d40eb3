import { type LessonId, newStepId, type TakeId } from '@/core/base/ids';
import { defaultCut, gainsOf } from '@/core/cut/cut';
import { setLayout, setTitle, split } from '@/core/cut/edits';
import { FIRST_RIG } from '@/core/rig/purposes';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { saveCut } from '../cuts/cuts';
import { Lesson, Take } from '../db/entities';
import { orm, unitOfWork } from '../db/orm';
import { queue } from '../jobs/queue';
import { makeLesson } from '../lessons/lessons';
import { discardTake } from '../takes/ingest';
import { bringDemoTake, DEMO_BROWSER, readDemoTake } from './demo-take';

const silent: Rig = { ...PRACTICE_RIG, camera: null, appSound: null };
const dense: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, box: null, frameRate: { num: 15, den: 1 } },
};

/** The lessons of the Fernhollow Seed Library's volunteers, the one last worked on first. */
const LESSONS: { title: string; rig: Rig; take?: string; steps?: [string, string] }[] = [
  { title: 'Check in a returned packet', rig: FIRST_RIG },
  {
    title: 'Plan a bed rotation',
    rig: PRACTICE_RIG,
    take: 'bed-rotation',
    steps: ['What grows where', 'Next year’s plan'],
  },
  { title: 'Read the germination log', rig: PRACTICE_RIG, take: 'germination-log' },
  { title: 'Print germination labels', rig: dense },
  { title: 'Let a bed rest for a year', rig: silent },
];
const DAY_MS = 24 * 3600 * 1000;

const BESIDE = { kind: 'side-by-side', camera: 'right', mirror: false, key: null } as const;

/** Two steps, the second with the camera beside the screen. */
async function cutInTwo(
  lesson: LessonId,
  take: TakeId,
  rig: Rig,
  durationUs: number,
  titles: [string, string],
) {
  const [first, second] = [newStepId(), newStepId()];
  const camera = rig.camera?.place ?? null;
  const whole = defaultCut(first, { id: take, durationUs, camera, gains: gainsOf(rig) });
  const parted = split(whole, Math.round(durationUs / 2), second);
  const named = setTitle(setTitle(parted, first, titles[0]), second, titles[1]);
  await saveCut(lesson, { cut: setLayout(named, second, BESIDE), revision: 0 });
}

async function fill(): Promise<void> {
  const now = Date.now();
  for (const [i, { title, rig, take: name, steps }] of LESSONS.entries()) {
    const at = new Date(now - i * DAY_MS);
    const shipped = name ? await readDemoTake(name) : null;
    const em = await unitOfWork();
    const lesson = makeLesson(em, title, shipped?.head.rig ?? rig);
    await em.flush();
    if (name && shipped) {
      const take = await bringDemoTake(lesson.id, name, at);
      if (steps) await cutInTwo(lesson.id, take, shipped.head.rig, shipped.end.durationUs, steps);
    }
    // What was just done to it is said to be older.
    await (await unitOfWork()).nativeUpdate(Lesson, { id: lesson.id }, { updatedAt: at });
  }
}

/** A start that was ended in the middle of filling leaves a take that no browser will ever send. */
async function dropHalfBrought(): Promise<void> {
  const half = await (await unitOfWork()).find(Take, { browser: DEMO_BROWSER, state: 'recording' });
  for (const { id } of half) await discardTake(id);
}

const db = await orm();
if ((await db.em.fork().count(Lesson)) > 0) {
  await dropHalfBrought();
  console.log('there already are some');
} else {
  await fill();
  await (await queue()).stop({ graceful: false });
  console.log(`${LESSONS.length} demo lessons made`);
}
await db.close(true);
