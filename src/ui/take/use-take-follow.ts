import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { Problem } from '@/core/base/problem';
import type { JobView, TakePage } from '@/core/views/take-page';
import { canPlayTracks, preparePlayer } from '@/player/player';
import { startUploader, uploadNews } from '@/recorder/uploader/uploader';
import { fileNameOf, savedAs } from './take-panel';

/** Follows a take that is on its way or being finished. @returns why its browser cannot send it, where it cannot */
export function useTakeFollow(take: TakePage, job: JobView | null): Problem | null {
  const router = useRouter();
  const arriving = take.state === 'recording' || take.state === 'uploading';
  useEffect(startUploader, []);
  useEffect(() => {
    if (arriving && canPlayTracks()) preparePlayer();
  }, [arriving]);
  const news = useStore(uploadNews, (uploads) => uploads.news);
  const arrived = news?.arrived.some(({ id }) => id === take.id) ?? false;
  useEffect(() => {
    if (arrived) router.refresh();
  }, [arrived, router]);
  // A refresh that meets another one under way is dropped, so the page asks until it has what it knows to be there.
  const behind = arriving || (job?.state === 'done' && take.facts === null);
  useEffect(() => {
    if (!behind) return;
    const timer = setInterval(() => router.refresh(), 1000);
    return () => clearInterval(timer);
  }, [behind, router]);
  return news?.takes.find(({ id }) => id === take.id)?.problem ?? null;
}

/** Whoever wanted the plain video after the stop gets it as soon as it is made. */
export function usePlainVideo(take: TakePage): void {
  const wanted = useSearchParams()?.get('then') === 'plain';
  const [given, setGiven] = useState(false);
  const ready = wanted && take.facts?.plainVideo !== null && take.facts?.plainVideo !== undefined;
  useEffect(() => {
    if (!ready || given) return;
    setGiven(true);
    const link = document.createElement('a');
    link.href = savedAs(take, 'plain.mp4', fileNameOf(take));
    link.download = '';
    link.click();
  }, [ready, given, take]);
}
