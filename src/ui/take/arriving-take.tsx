'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import type { TakeId } from '@/core/base/ids';
import { canPlayTracks, preparePlayer } from '@/player/player';
import { startUploader, uploadNews } from '@/recorder/uploader/uploader';
import type { Light } from '../look/light';
import { Bank } from '../page/bank';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';

/** A take that the server does not know: still on its way from this browser, or gone. */
export function ArrivingTake({ id, light }: { id: TakeId; light: Light }) {
  const router = useRouter();
  const news = useStore(uploadNews, ({ news }) => news);
  const here = news?.takes.find((take) => take.id === id);
  const arrived = news?.arrived.some((take) => take.id === id) ?? false;
  useEffect(() => {
    if (canPlayTracks()) preparePlayer();
  }, []);
  useEffect(() => {
    startUploader();
    if (arrived) router.refresh();
    const timer = setInterval(() => router.refresh(), 1500);
    return () => clearInterval(timer);
  }, [router, arrived]);
  const problem = here?.problem;
  return (
    <>
      <Bank light={light} />
      <main>
        <Verdict
          kind={here || !news ? 'good' : 'warn'}
          sentence={here || !news ? 'The take is uploading from this browser.' : 'There is no such take.'}
          detail={
            problem
              ? `${problem.message} ${problem.hint ?? ''}`
              : here || !news
                ? 'It is kept here until the server has all of it.'
                : 'It may have been deleted.'
          }
        >
          <ButtonLink href="/">All lessons</ButtonLink>
        </Verdict>
      </main>
    </>
  );
}
