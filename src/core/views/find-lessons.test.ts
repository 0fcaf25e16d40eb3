import fc from 'fast-check';
import { expect, it } from 'vitest';
import { findLessons, foundTakes } from './find-lessons';
import { type LessonView, STAGES } from './lesson';

const take = fc.record({ title: fc.constantFrom('First take', 'The good one', 'With “quotes”', 'Täke 10') });
const lesson = fc
  .record({
    title: fc.constantFrom('Weigh a sowing', 'weigh it again', 'Lesson 10', 'Lesson 9', 'Über Beete'),
    stage: fc.constantFrom(...STAGES.map(({ key }) => key)),
    takes: fc.array(take, { maxLength: 3 }),
  })
  .map((made) => made as unknown as LessonView);
const lessons = fc.array(lesson, { maxLength: 12 });
const wanted = fc.constantFrom('', ' ', 'WEIGH', 'good', '10', 'über', 'nothing has this');

it('finds by the title of a lesson or of any of its takes, and loses and invents none', () => {
  fc.assert(
    fc.property(lessons, wanted, fc.constantFrom('recent', 'title', 'stage' as const), (all, text, order) => {
      const found = findLessons(all, text, order);
      const want = text.trim().toLowerCase();
      const expected = all.filter(
        ({ title, takes }) =>
          title.toLowerCase().includes(want) || takes.some((each) => each.title.toLowerCase().includes(want)),
      );
      expect(new Set(found)).toEqual(new Set(expected));
      expect(found).toHaveLength(expected.length);
      if (order === 'recent') expect(found).toEqual(expected);
      for (const each of found)
        for (const { title } of foundTakes(each, text)) expect(title.toLowerCase()).toContain(want);
    }),
  );
});

it('orders by title as people count, and by stage with the latest first within one', () => {
  const of = (title: string, stage: string) => ({ title, stage, takes: [] }) as unknown as LessonView;
  const all = [of('Lesson 10', 'edit'), of('lesson 9', 'set-up'), of('A', 'edit')];
  expect(findLessons(all, '', 'title').map(({ title }) => title)).toEqual(['A', 'lesson 9', 'Lesson 10']);
  expect(findLessons(all, '', 'stage').map(({ title }) => title)).toEqual(['lesson 9', 'Lesson 10', 'A']);
  expect(foundTakes({ takes: [] }, 'x')).toEqual([]);
});
