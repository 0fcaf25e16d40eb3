'use client';

import { Button } from 'antd';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { TakeId } from '@/core/base/ids';
import { cutOfTake, type EditPage } from '@/core/views/edit-page';
import { useRoom } from '../lesson/lesson-room';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';
import { BringIn } from './bring-in';
import { EditRoom } from './edit-room';
import { useBroughtParams } from './use-brought';
import { useAgainParams } from './use-recorded-again';

const LOOK_AGAIN_MS = 1000;

const nothingToSave = async () => undefined;
const atTheStart = () => 0;

/** Until a take that was recorded for a step, or made of a file, has arrived. */
function AwaitedTake({ take, isAgain }: { take: TakeId; isAgain: boolean }) {
  const { lesson } = useRoom();
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [router]);
  return (
    <main>
      <Verdict
        kind="good"
        sentence="The new take is on its way to the studio."
        detail={
          isAgain
            ? 'It takes its step’s place as soon as it has arrived.'
            : 'It is added where the playhead was as soon as it has arrived.'
        }
      >
        <ButtonLink href={`/takes/${take}`}>Show the take</ButtonLink>
        <ButtonLink href={`/lessons/${lesson.id}/edit`}>Edit without it</ButtonLink>
      </Verdict>
    </main>
  );
}

/** Edit: the steps, the picture, the time strip. */
export function EditStage({ page }: { page: EditPage }) {
  const { lesson } = useRoom();
  const router = useRouter();
  const told = useTold();
  const there = new Set<string>(page.takes.map(({ id }) => id));
  const missing = page.cut?.steps.flatMap(({ pieces }) => pieces).find(({ take }) => !there.has(take));
  const again = useAgainParams();
  const brought = useBroughtParams();
  // A take that was just stopped is still on its way to the studio, and one of a file is being finished.
  const awaited = again?.take ?? brought?.take;
  if (awaited && !there.has(awaited)) return <AwaitedTake take={awaited} isAgain={again !== null} />;
  // A take that is added is one that the player must open.
  const opened = [page.revision, ...there].join(' ');
  if (page.cut && !missing) return <EditRoom key={opened} page={{ ...page, cut: page.cut }} />;
  const change = async (work: Promise<unknown>) => {
    if (await told(work)) router.refresh();
  };
  const [newest] = page.takes;
  if (missing)
    return (
      <main>
        <Verdict
          kind="warn"
          sentence="A take in this cut was deleted."
          detail="Restore it from the bin, or start with another take. The present cut stays under Versions."
        >
          {newest && (
            <Button
              onClick={() =>
                change(
                  fetchJson('PUT', `/api/lessons/${lesson.id}/cut`, {
                    cut: cutOfTake(newest),
                    revision: page.revision,
                  }),
                )
              }
            >
              Start with {newest.title}
            </Button>
          )}
          <Button
            type="primary"
            onClick={() => change(fetchJson('PATCH', `/api/takes/${missing.take}`, { deleted: false }))}
          >
            Restore the take
          </Button>
        </Verdict>
      </main>
    );
  return (
    <main>
      <Verdict
        kind="good"
        sentence="There is no take to cut yet."
        detail="Record a take or import a finished film; it can be cut at once."
      >
        <BringIn incoming={page.incoming} placeUs={atTheStart} flush={nothingToSave} />
        <ButtonLink type="primary" href={`/lessons/${lesson.id}/record`}>
          Record
        </ButtonLink>
      </Verdict>
    </main>
  );
}
