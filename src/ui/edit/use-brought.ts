import { App } from 'antd';
import { useSearchParams } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { newStepId, TakeId } from '@/core/base/ids';
import { type Cut, type Step, stepLengthUs } from '@/core/cut/cut';
import { insertStep } from '@/core/cut/whole-steps';
import { type EditPage, stepOfTake } from '@/core/views/edit-page';
import { useRoom } from '../lesson/lesson-room';
import type { Edits } from './use-edits';

/** A take that was made of a file, or is one of another lesson, and becomes steps, as the address of the page says. */
export type BroughtParams = {
  take: TakeId;
  /** Place of the video. */
  us: number;
  /** Of slides; 0 for video and sound. */
  pages: number;
};

/** What the address of the page says of a take that is to be added; null where it says nothing of that. */
export function useBroughtParams(): BroughtParams | null {
  const params = useSearchParams();
  const take = TakeId.safeParse(params?.get('brought'));
  const number = (name: string) => Math.max(0, Math.round(Number(params?.get(name)) || 0));
  return take.success ? { take: take.data, us: number('at'), pages: number('pages') } : null;
}

/** A slide stands as long as two or three sentences take. */
const SLIDE_US = 5_000_000;
const PAGE_US = 1_000_000;
/** A player that is not ready by then has something else to do. */
const LOADING_MS = 8000;

/** How many slides a take is made of; 0 for anything else. Slides are a film of 1 fps. */
export function slidePages({ imported, durationUs, facts }: EditPage['takes'][number]): number {
  const frames = facts?.picture?.frames ?? 0;
  return imported && frames * PAGE_US === durationUs ? frames : 0;
}

/** The steps of a take that was made of a file: one for each slide, held for a while, or one of all that runs. */
export function stepsOf(take: EditPage['takes'][number], pages: number): Step[] {
  if (pages === 0) return [{ ...stepOfTake(take, null), title: take.title }];
  return Array.from({ length: pages }, (_, page) => {
    // The middle of its second.
    const heldUs = page * PAGE_US + PAGE_US / 2;
    return {
      ...stepOfTake(take, null),
      title: pages === 1 ? take.title : `${take.title}, ${page + 1}`,
      layout: { kind: 'screen' },
      pieces: [{ take: take.id, heldUs, inUs: heldUs, outUs: heldUs + SLIDE_US }],
    };
  });
}

/** Puts steps one after another where a place of the video is. */
export function insertSteps(cut: Cut, us: number, steps: readonly Step[]): Cut {
  let atUs = us;
  return steps.reduce((now, step) => {
    const next = insertStep(now, atUs, step, newStepId());
    atUs += stepLengthUs(step);
    return next;
  }, cut);
}

/** A lesson that has nothing but this take begins with its steps. */
function withBrought(cut: Cut, take: EditPage['takes'][number], { us, pages }: BroughtParams): Cut {
  const steps = stepsOf(take, pages || slidePages(take));
  const isOnly = cut.steps.every(({ pieces }) => pieces.every((piece) => piece.take === take.id));
  return isOnly ? { ...cut, steps } : insertSteps(cut, us, steps);
}

/** Adds a take that was made of a file, or is one of another lesson, where the playhead was, once; undo takes it out again. @param isLoaded whether the player is ready */
export function useBrought({ edit }: Edits, takes: EditPage['takes'], isLoaded: boolean): void {
  const { lesson } = useRoom();
  const { message } = App.useApp();
  const brought = useBroughtParams();
  const done = useRef(false);
  const take = brought && takes.find(({ id }) => id === brought.take);
  const add = () => {
    if (done.current || !brought || !take) return;
    done.current = true;
    // Without asking for the page again: as long as the cut is not saved, that knows nothing of a take of another lesson.
    window.history.replaceState(null, '', `/lessons/${lesson.id}/edit`);
    edit((cut) => withBrought(cut, take, brought), brought.us);
    void message.success(
      take.own
        ? `${take.title} was added. The file itself is kept with the take.`
        : `“${take.title}” of “${take.lesson.title}” was added. It is kept for as long as this lesson uses it.`,
      6,
    );
  };
  const latest = useRef(add);
  latest.current = add;
  useEffect(() => {
    if (!take) return;
    // Only a player that is ready can go there; a picture that cannot be played keeps nothing from being added.
    const timer = setTimeout(() => latest.current(), isLoaded ? 0 : LOADING_MS);
    return () => clearTimeout(timer);
  }, [take, isLoaded]);
}
