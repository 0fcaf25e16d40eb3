import { LockMode } from '@mikro-orm/core';
import type { LessonId, RehearsalId } from '@/core/base/ids';
import type { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { type RehearsalReport, type RehearsalView, summaryOf } from '@/core/rehearsal/rehearsal';
import { Lesson, RehearsalRow } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';

const view = ({ number, summary }: Pick<RehearsalRow, 'number' | 'summary'>): RehearsalView => ({
  ...summary,
  number,
});

/** The ledger of a lesson, the newest first. */
export async function listRehearsals(lesson: LessonId): Promise<RehearsalView[]> {
  const em = await unitOfWork();
  // Thousands of frames each, which nobody looks at in a list.
  const rows = await em.find(
    RehearsalRow,
    { lesson },
    { fields: ['number', 'summary'], orderBy: { number: 'desc' }, disableIdentityMap: true },
  );
  return rows.map(view);
}

/** Adds a rehearsal to the ledger of its lesson. Sent twice, it is there once. */
export async function keepRehearsal(id: LessonId, report: RehearsalReport): Promise<RehearsalView> {
  const em = await unitOfWork();
  return em.transactional(async (tx) => {
    // Two tabs may rehearse one lesson: each number is given once.
    const lesson = found(
      await tx.findOne(Lesson, { id, deletedAt: null }, { lockMode: LockMode.PESSIMISTIC_WRITE }),
      'lesson',
    );
    const known = await tx.findOne(RehearsalRow, { id: report.id, lesson });
    if (known) return view(known);
    const number = 1 + (await tx.count(RehearsalRow, { lesson }));
    const row = tx.create(RehearsalRow, {
      id: report.id,
      lesson,
      number,
      summary: summaryOf(report),
      trace: report.trace,
    });
    await tx.flush();
    return view(row);
  });
}

/** Every frame of a rehearsal. */
export async function readTrace(lesson: LessonId, id: RehearsalId): Promise<RehearsalTrace> {
  const em = await unitOfWork();
  return found(await em.findOne(RehearsalRow, { id, lesson }), 'rehearsal').trace;
}
