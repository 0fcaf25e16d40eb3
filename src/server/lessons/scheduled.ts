import type { LessonId, ScheduleId } from '@/core/base/ids';
import { newScheduleId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import {
  MISSED_AFTER_MS,
  type ScheduleChange,
  type ScheduledView,
  type ScheduleInput,
  scheduleRefusal,
} from '@/core/recording/schedule';
import { Lesson, Scheduled } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';

const view = ({ id, startAt, stopAt, state, problem, take }: Scheduled): ScheduledView => ({
  id,
  startAtMs: startAt.getTime(),
  stopAtMs: stopAt?.getTime() ?? null,
  state,
  problem: problem ?? null,
  takeId: take ?? null,
});

/** The scheduled takes of a lesson that somebody still has to know of: those that wait, and those that could not start. */
export async function listScheduled(lesson: LessonId): Promise<ScheduledView[]> {
  const em = await unitOfWork();
  const rows = await em.find(
    Scheduled,
    { lesson, state: ['waiting', 'missed'] },
    { orderBy: { startAt: 'asc' } },
  );
  return rows.map(view);
}

/** Why the last scheduled take of a lesson did not start, where nobody has taken that message away. */
export async function missedTakes(): Promise<Map<LessonId, string>> {
  const em = await unitOfWork();
  const rows = await em.find(Scheduled, { state: 'missed' }, { orderBy: { startAt: 'asc' } });
  return new Map(rows.flatMap(({ lesson, problem }) => (problem ? [[lesson.id, problem]] : [])));
}

/** @throws {ProblemError} `conflict` when it is past, or would run into another one of the lesson */
export async function schedule(id: LessonId, input: ScheduleInput): Promise<ScheduledView> {
  const em = await unitOfWork();
  const lesson = found(await em.findOne(Lesson, { id, deletedAt: null }), 'lesson');
  const refusal = scheduleRefusal(input, await listScheduled(id), Date.now());
  if (refusal)
    throw new ProblemError({
      code: 'conflict',
      message: refusal,
      hint: 'Choose another time.',
      field: 'startAtMs',
    });
  const row = em.create(Scheduled, {
    id: newScheduleId(),
    lesson,
    startAt: new Date(input.startAtMs),
    stopAt: input.stopAtMs === null ? null : new Date(input.stopAtMs),
    state: 'waiting',
  });
  await em.flush();
  return view(row);
}

/**
 * What became of it. One that is over changes no more, but a message can be dismissed; and one that was missed has started after all when
 * the page that started it says so later.
 */
export async function changeScheduled(
  id: ScheduleId,
  { state, problem, takeId }: ScheduleChange,
): Promise<void> {
  const em = await unitOfWork();
  const row = found(await em.findOne(Scheduled, { id }), 'scheduled take');
  const late = row.state === 'missed' && state === 'started';
  if (row.state !== 'waiting' && state !== 'cancelled' && !late) return;
  Object.assign(row, { state, problem, take: takeId });
  await em.flush();
}

/** A take that began so long before its time, by a clock that was set meanwhile, is still the scheduled one. */
const EARLY_MS = 5000;

/** A scheduled take whose recording has arrived was not missed, whether the page that started it could say so or not. */
const SETTLE = `
  update scheduled
     set state = 'started', problem = null, take = take.id, updated_at = now()
    from take
   where scheduled.state in ('waiting', 'missed')
     and take.lesson_id = scheduled.lesson_id
     and take.started_at between scheduled.start_at - interval '${EARLY_MS} ms'
                             and scheduled.start_at + interval '${MISSED_AFTER_MS} ms'`;

/** Takes whose time has passed without anybody starting them leave a message in their lesson. */
export async function tellMissed(): Promise<void> {
  const em = await unitOfWork();
  await em.getConnection().execute(SETTLE);
  await em.nativeUpdate(
    Scheduled,
    { state: 'waiting', startAt: { $lt: new Date(Date.now() - MISSED_AFTER_MS) } },
    {
      state: 'missed',
      problem: 'No page of this lesson was open on Record and armed at that time.',
      updatedAt: new Date(),
    },
  );
}
