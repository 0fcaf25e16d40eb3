import { App } from 'antd';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { StepId, TakeId } from '@/core/base/ids';
import { placedSteps, stepTitle } from '@/core/cut/cut';
import { pieceOfTake, replaceStep } from '@/core/cut/whole-steps';
import type { EditPage } from '@/core/views/edit-page';
import { useRoom } from '../lesson/lesson-room';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';

/** A take that stands for a step from now on, as the address of the page says; null where it says nothing of that. */
export function useAgainParams(): { step: StepId; take: TakeId } | null {
  const params = useSearchParams();
  const step = StepId.safeParse(params?.get('step'));
  const take = TakeId.safeParse(params?.get('take'));
  return step.success && take.success ? { step: step.data, take: take.data } : null;
}

/** Its waveform says where it begins and ends; a take without sound has none to wait for. */
const PEAKS_MS = 6000;

/**
 * Puts a take that was recorded for a step in its place, once, trimmed at both ends; undo brings the old one back.
 * @param trimmed the stretch of a take without head and tail
 * @param isKnown whether its waveform is there
 */
export function useRecordedAgain(
  { cut }: CutKeeper,
  { edit }: Edits,
  takes: EditPage['takes'],
  trimmed: (take: { id: TakeId }) => { inUs: number; outUs: number } | null,
  isKnown: (take: TakeId) => boolean,
): void {
  const { lesson } = useRoom();
  const router = useRouter();
  const { message } = App.useApp();
  const again = useAgainParams();
  const since = useRef(0);
  const done = useRef(false);
  const take = again && takes.find(({ id }) => id === again.take);
  const known = again ? isKnown(again.take) : false;
  const replace = () => {
    if (done.current || !again || !take) return;
    done.current = true;
    router.replace(`/lessons/${lesson.id}/edit`);
    const placed = placedSteps(cut).find(({ step }) => step.id === again.step);
    if (!placed)
      return void message.warning('The step is no longer in the cut. Add the take where it belongs.');
    edit((now) => replaceStep(now, again.step, [pieceOfTake(take, trimmed(take))]), placed.startUs);
    void message.success(
      `${stepTitle(cut, again.step)} now shows ${take.title}. Undo brings the old one back.`,
      6,
    );
  };
  const latest = useRef(replace);
  latest.current = replace;
  useEffect(() => {
    if (!take) return;
    since.current ||= Date.now();
    const left = known ? 0 : Math.max(0, PEAKS_MS - (Date.now() - since.current));
    const timer = setTimeout(() => latest.current(), left);
    return () => clearTimeout(timer);
  }, [take, known]);
}
