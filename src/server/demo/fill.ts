import { PRACTICE_RIG, type Rig } from '@/core/rig';
import { Lesson } from '../db/entities';
import { orm } from '../db/orm';
import { makeLesson } from '../lessons';

const silent: Rig = { ...PRACTICE_RIG, camera: null, appSound: null };
const dense: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, box: null, frameRate: { num: 15, den: 1 } },
};

/** The lessons of the Fernhollow Seed Library's volunteers; the first of the list is the last one here. */
const LESSONS: [title: string, rig: Rig][] = [
  ['Let a bed rest for a year', silent],
  ['Read the germination log', dense],
  ['Plan a bed rotation', PRACTICE_RIG],
  ['Print germination labels', dense],
  ['Check in a returned packet', PRACTICE_RIG],
];

const db = await orm();
const em = db.em.fork();
if ((await em.count(Lesson)) > 0) {
  console.log('there already are some');
} else {
  const began = Date.now() - LESSONS.length * 1000;
  LESSONS.forEach(([title, rig], i) => {
    const lesson = makeLesson(em, title, rig);
    lesson.updatedAt = new Date(began + i * 1000);
  });
  await em.flush();
  console.log(`${LESSONS.length} demo lessons made`);
}
await db.close(true);
