'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useSyncExternalStore } from 'react';
import { bytesText, clockText } from '@/core/figures';
import type { LessonView } from '@/core/lesson';
import { adoptTake, hurryUploader, uploadNews } from '@/recorder/uploader/uploader';
import { PageLink } from '../shared/page-link';
import { Verdict } from '../shared/verdict';

/** Whether everything that was recorded is safe; what is still in this browser, and what was recovered from it. */
export function SafetyVerdict({ lessons, freeBytes }: { lessons: LessonView[]; freeBytes: number }) {
  const router = useRouter();
  const news = useSyncExternalStore(uploadNews.subscribe, uploadNews.get, () => null);
  const arrived = news?.arrived.length ?? 0;
  useEffect(() => {
    if (arrived > 0) router.refresh();
  }, [arrived, router]);

  const here = (news?.takes ?? []).filter(({ live }) => !live);
  const [stuck] = here.filter(({ problem }) => problem !== null);
  if (stuck?.problem) {
    const orphan = stuck.problem.code === 'not-found';
    const when = new Date(stuck.startedAt).toLocaleString('en-GB', {
      dateStyle: 'medium',
      timeStyle: 'short',
    });
    return (
      <Verdict
        kind="warn"
        sentence={`A recording of ${when} is only in this browser (${bytesText(stuck.localBytes)}).`}
        detail={
          orphan ? 'Its lesson is no longer there.' : `${stuck.problem.message} ${stuck.problem.hint ?? ''}`
        }
      >
        {orphan ? (
          <button type="button" className="act main" onClick={() => adoptTake(stuck.id)}>
            Keep it in a new lesson
          </button>
        ) : (
          <button type="button" className="act" onClick={hurryUploader}>
            Try again now
          </button>
        )}
      </Verdict>
    );
  }
  if (here.length > 0) {
    const [local, sent] = [
      here.reduce((sum, take) => sum + take.localBytes, 0),
      here.reduce((sum, take) => sum + take.sentBytes, 0),
    ];
    return (
      <Verdict
        kind="warn"
        sentence={`${here.length === 1 ? 'One take is' : `${here.length} takes are`} on the way from this browser.`}
        detail={`${bytesText(sent)} of ${bytesText(local)} sent. Leave the page open until the rest has arrived.`}
      />
    );
  }
  const recovered = news?.arrived.findLast(({ cutOff }) => cutOff);
  if (recovered)
    return (
      <Verdict
        kind="good"
        sentence={`A recording that was cut off after ${clockText(recovered.durationUs)} was recovered.`}
        detail="At most the last second before it is missing."
      >
        <PageLink className="act main" href={`/takes/${recovered.id}`}>
          Open the take
        </PageLink>
      </Verdict>
    );
  const takes = lessons.flatMap((lesson) => lesson.takes);
  const unsafe = takes.filter((take) => take.state === 'recording' || take.state === 'uploading').length;
  if (unsafe > 0)
    return (
      <Verdict
        kind="warn"
        sentence={`${unsafe === 1 ? 'One take is' : `${unsafe} takes are`} still on the way from a browser.`}
        detail="Leave the page open there until the rest has arrived."
      />
    );
  return (
    <Verdict
      kind="good"
      sentence={
        takes.length === 0
          ? 'Ready for the first recording.'
          : `Everything you recorded is safe: ${takes.length === 1 ? 'one take' : `${takes.length} takes`} on the server.`
      }
      detail={`${bytesText(freeBytes)} free on the server’s disk`}
    />
  );
}
