import { fillPattern, nameMoment } from '../base/names';
import { type Size, sizeText } from '../base/sizes';
import { PURPOSES } from './purposes';
import type { Rig } from './rig';

/** What the files of a take are called, without an extension, by the pattern of its rig. */
export function takeFileName(take: {
  rig: Pick<Rig, 'names' | 'purpose'>;
  lesson: string;
  take: string;
  startedAt: Date;
  picture: Size | null;
}): string {
  const { rig } = take;
  return fillPattern(rig.names.pattern, {
    lesson: take.lesson,
    take: take.take,
    rig: rig.purpose ? PURPOSES[rig.purpose.kind].name : '',
    size: take.picture ? sizeText(take.picture).replaceAll(' ', '') : '',
    ...nameMoment(take.startedAt),
  });
}
