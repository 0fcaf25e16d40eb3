import { type Size, sameSize } from '@/core/base/sizes';
import type { Detail } from '@/core/recording/less-detail';
import { afterFailure, type Replacement } from '@/core/recording/replacement';
import type { VideoSettings } from '../messages';
import { type ChosenVideo, type chooseVideo, lesser } from './video-config';

/** Which encoder a picture track uses: as the rig asks, with less where the machine is too slow, otherwise where encoders have failed. */
export type EncodingChoice = {
  readonly forSize: (size: Size) => Promise<ChosenVideo>;
  /** Chooses before it is needed. */
  readonly prepare: (size: Size, onProblem: (error: unknown) => void) => void;
  /** What was prepared, for this size or for any; null where nothing was. */
  readonly prepared: (size?: Size) => ChosenVideo | null;
  readonly detail: () => Detail;
  /** @returns whether that changes anything */
  readonly lower: (detail: Detail) => boolean;
  readonly replacement: () => Replacement;
  /** Counts a failure. @returns what to try now */
  readonly countFailure: (nowUs: number) => Replacement;
  /** What is left of the rig's settings after failures. */
  readonly settings: () => VideoSettings;
};

export function openEncodingChoice(
  role: 'screen' | 'camera',
  asked: VideoSettings,
  choose: typeof chooseVideo,
): EncodingChoice {
  let detail: Detail = { hint: true, scale: 1 };
  let replacement: Replacement = 'same';
  let prepared: { size: Size; chosen: ChosenVideo } | null = null;
  let preparing: Size | null = null;
  const failuresUs: number[] = [];

  const settings = (): VideoSettings => {
    if (replacement === 'same') return asked;
    const safer: VideoSettings = { ...asked, hardware: 'prefer-software', level: null };
    if (replacement === 'software' || !asked.otherCodec) return safer;
    return { ...safer, codec: asked.otherCodec, profile: 'automatic', rateControl: 'average' };
  };
  const forSize = (size: Size) => choose(role, size, lesser(settings(), size, detail));

  return {
    forSize,
    settings,
    prepare: (size, onProblem) => {
      if (preparing && sameSize(preparing, size)) return;
      preparing = size;
      forSize(size).then((chosen) => {
        prepared = { size, chosen };
      }, onProblem);
    },
    prepared: (size) => (prepared && (!size || sameSize(prepared.size, size)) ? prepared.chosen : null),
    detail: () => detail,
    lower: (next) => {
      if (next.hint === detail.hint && next.scale === detail.scale) return false;
      detail = next;
      return true;
    },
    replacement: () => replacement,
    countFailure: (nowUs) => {
      failuresUs.push(nowUs);
      replacement = afterFailure(failuresUs, asked.otherCodec !== undefined);
      return replacement;
    },
  };
}
