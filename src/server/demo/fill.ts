import { copyFile, mkdir, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import { type LessonId, newStepId, newTakeId, type TakeId } from '@/core/base/ids';
import { type Cut, defaultCut, gainsOf, PLAIN_STEP, placedSteps, type Step } from '@/core/cut/cut';
import { hold, setLayout, setTitle, split } from '@/core/cut/edits';
import { FIRST_RIG } from '@/core/rig/purposes';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { bringFile } from '../bring/bring-file';
import { saveCut } from '../cuts/cuts';
import { Lesson, Take } from '../db/entities';
import { orm, unitOfWork } from '../db/orm';
import { queue } from '../jobs/queue';
import { makeLesson } from '../lessons/lessons';
import { inspectionPath } from '../media/media-folder';
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

const SLIDE = 'src/server/demo/takes/bed-to-log.png';
/** Of the window that the takes show. */
const SLIDE_SIZE = { width: 960, height: 640 };
const LESSON_OF_STEPS = 'From bed plan to germination log';

/** A lesson of two takes and a slide, with a zoom, a held frame, a covered area, a quicker step and a dissolve. */
async function fillLessonOfSteps(at: Date): Promise<void> {
  const em = await unitOfWork();
  const names = ['bed-rotation', 'germination-log'] as const;
  const shipped = await Promise.all(names.map((name) => readDemoTake(name)));
  const lesson = makeLesson(em, LESSON_OF_STEPS, shipped[0]?.head.rig ?? PRACTICE_RIG);
  await em.flush();
  // A file is moved into the studio: the shipped one stays.
  const copy = inspectionPath();
  await mkdir(dirname(copy), { recursive: true });
  await copyFile(SLIDE, copy);
  const slide = newTakeId();
  await bringFile(
    { lesson: lesson.id, path: copy, name: 'Title slide.png', take: slide, size: SLIDE_SIZE },
    () => undefined,
    new AbortController().signal,
  );
  await rm(`${copy}.parts`, { recursive: true, force: true });
  const [bed, log] = await Promise.all(names.map((name) => bringDemoTake(lesson.id, name, at)));
  const [planning, reading] = shipped;
  if (!bed || !log || !planning || !reading) throw new Error('A shipped take is missing.');
  const step = (title: string, pieces: Step['pieces'], change: Partial<Step>): Step => ({
    ...{ ...PLAIN_STEP, id: newStepId(), title, pieces, layout: { kind: 'screen' } },
    gains: gainsOf(planning.head.rig),
    ...change,
  });
  const half = Math.round(planning.end.durationUs / 2);
  const third = Math.round(reading.end.durationUs / 3);
  const whole: Cut = {
    version: 4,
    marks: [],
    steps: [
      step('Title', [{ take: slide, heldUs: 500_000, inUs: 500_000, outUs: 4_000_000 }], {}),
      step('Plan the bed', [{ take: bed, inUs: 300_000, outUs: half }], {
        entry: { kind: 'dissolve', lengthUs: 600_000 },
        zooms: [
          {
            ...{ fromUs: 1_500_000, toUs: half - 900_000, easeUs: 600_000 },
            area: { x: 0.35, y: 0.2, width: 0.5, height: 0.5 },
          },
        ],
      }),
      step('Write down what came up', [{ take: log, inUs: 300_000, outUs: third }], {
        entry: { kind: 'dip', lengthUs: 800_000 },
        covers: [
          {
            ...{ fromUs: 0, toUs: third, kind: 'blur' },
            area: { x: 0.67, y: 0.01, width: 0.32, height: 0.06 },
          },
        ],
      }),
      step('Scroll through the rest', [{ take: log, inUs: third, outUs: reading.end.durationUs }], {
        speed: 2,
      }),
    ],
  };
  const [, , , last] = placedSteps(whole);
  await saveCut(lesson.id, { cut: hold(whole, last?.startUs ?? 0, 2_000_000), revision: 0 });
  await (await unitOfWork()).nativeUpdate(Lesson, { id: lesson.id }, { updatedAt: at });
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
  await fillLessonOfSteps(new Date(now - LESSONS.length * DAY_MS));
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
  console.log(`${LESSONS.length + 1} demo lessons made`);
}
await db.close(true);
