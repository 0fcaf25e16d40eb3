'use client';

import { Button } from 'antd';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { bytesText, clockText } from '@/core/base/figures';
import type { LessonView } from '@/core/views/lesson';
import type { UploadNews } from '@/recorder/uploader/messages';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';

type Props = {
  lessons: LessonView[];
  freeBytes: number;
  /** Why database and media folder do not belong together; null when they do. */
  differs: string | null;
  news: UploadNews | null;
};

/** Where a take is found again. Empty until the list of lessons has it. */
function placeOf(lessons: readonly LessonView[], id: string): string {
  const lesson = lessons.find(({ takes }) => takes.some((take) => take.id === id));
  const take = lesson?.takes.find((each) => each.id === id);
  return lesson && take ? `: “${take.title}” of “${lesson.title}”` : '';
}

/** Whether everything that was recorded is safe; what is still in this browser, and what was recovered from it. */
export function SafetyVerdict({ lessons, freeBytes, differs, news }: Props) {
  const router = useRouter();
  const arrived = news?.arrived.length ?? 0;
  useEffect(() => {
    if (arrived > 0) router.refresh();
  }, [arrived, router]);
  if (differs)
    return (
      <Verdict
        kind="stop"
        sentence={differs}
        detail="Nothing is removed. Run npm run adopt to list the takes in the media folder again."
      />
    );
  if (news?.newerTab) return <NewerTab />;
  const here = (news?.takes ?? []).filter(({ live }) => !live);
  const stuck = here.filter(({ problem }) => problem !== null);
  if (news && stuck.length > 0) return <OnlyHere stuck={stuck} failed={news.failed} />;
  if (here.length > 0) return <Uploading here={here} />;
  if (news?.olderTab)
    return (
      <Verdict
        kind="warn"
        sentence="An older version of the studio is open in another tab."
        detail="Reload that tab, so that everything it recorded is uploaded."
      />
    );
  const recovered = news?.arrived.findLast(({ cutOff }) => cutOff);
  if (recovered) return <Recovered take={recovered} lessons={lessons} />;
  return <OnServer lessons={lessons} freeBytes={freeBytes} />;
}

const NewerTab = () => (
  <Verdict
    kind="warn"
    sentence="This page is older than the studio."
    detail="Reload it, so that it handles what newer pages record."
  >
    <Button type="primary" onClick={() => window.location.reload()}>
      Reload
    </Button>
  </Verdict>
);

/** Takes of which the server has nothing, and why. */
function OnlyHere({ stuck, failed }: { stuck: UploadNews['takes']; failed: UploadNews['failed'] }) {
  const [first] = stuck;
  if (!first?.problem) return null;
  const when = new Date(first.startedAt || Date.now()).toLocaleString('en-GB', {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  return (
    <Verdict
      kind="warn"
      sentence={
        stuck.length === 1
          ? `A recording from ${when} is only in this browser (${bytesText(first.localBytes)}).`
          : `${stuck.length} recordings are only in this browser.`
      }
      detail={`${first.problem.message} ${failed ? failed.message : (first.problem.hint ?? '')}`}
    />
  );
}

function Uploading({ here }: { here: UploadNews['takes'] }) {
  const local = here.reduce((sum, take) => sum + take.localBytes, 0);
  const sent = here.reduce((sum, take) => sum + take.sentBytes, 0);
  return (
    <Verdict
      kind="warn"
      sentence={
        here.length === 1
          ? 'One take is uploading from this browser.'
          : `${here.length} takes are uploading from this browser.`
      }
      detail={`${bytesText(sent)} of ${bytesText(local)} sent. Keep the page open until the rest has arrived.`}
    />
  );
}

/** A take that tab, browser or machine had cut off. */
const Recovered = ({ take, lessons }: { take: UploadNews['arrived'][number]; lessons: LessonView[] }) => (
  <Verdict
    kind="good"
    sentence={`A recording that was cut off after ${clockText(take.durationUs)} was recovered${placeOf(lessons, take.id)}.`}
    detail="At most its last second is missing."
  >
    <ButtonLink type="primary" href={`/takes/${take.id}`}>
      Open the take
    </ButtonLink>
  </Verdict>
);

/** What the server has, and what other browsers still send it. */
function OnServer({ lessons, freeBytes }: { lessons: LessonView[]; freeBytes: number }) {
  const takes = lessons.flatMap((lesson) => lesson.takes);
  const unsafe = takes.filter((take) => take.state === 'recording' || take.state === 'uploading');
  const [waiting] = unsafe;
  if (waiting)
    return (
      <Verdict
        kind="warn"
        sentence={
          unsafe.length === 1
            ? 'One take is still uploading from a browser.'
            : `${unsafe.length} takes are still uploading from a browser.`
        }
        detail="Keep the studio open there until the rest has arrived."
      >
        <ButtonLink href={`/takes/${waiting.id}`}>Open the take</ButtonLink>
      </Verdict>
    );
  const count = takes.length === 1 ? 'one take' : `${takes.length} takes`;
  return (
    <Verdict
      kind="good"
      sentence={
        takes.length === 0
          ? 'Ready for the first recording.'
          : `Everything you recorded is safe: ${count} on the server.`
      }
      detail={`${bytesText(freeBytes)} free on the server’s disk`}
    />
  );
}
