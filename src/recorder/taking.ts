import { type LessonId, newTakeId, type TakeId } from '@/core/base/ids';
import { type Problem, ProblemError } from '@/core/base/problem';
import type { Size } from '@/core/base/sizes';
import { chooseCodec } from '@/core/encoding/encoder-speed';
import { isSeenLoss } from '@/core/recording/frame-outcome';
import type { FrameLedger, TakeEnd } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import type { Arrangement } from '@/practice/desk/arrangement';
import type { PracticeDesk } from '@/practice/practice-desk';
import { type DeskHand, openDeskHand } from './desk-hand';
import { pageNowUs, type Recorder } from './engine';
import { knownOf, rememberHint, rememberLoss } from './headroom';
import { machineFacts } from './machine';
import type { VideoFigures } from './messages';
import { type Rehearsal, rehearse } from './rehearsal/rehearse';
import type { SessionContext } from './session-context';
import type { RehearseOrder, SessionEffects } from './session-effects';
import type { Slots } from './slots';
import { openTicks } from './ticks';
import { hurryUploader } from './uploader/uploader';

/** How a session begins and ends its takes. */
export type Taking = {
  readonly effects: SessionEffects;
  /** Tells the take what the practice desk's hand has done since the last time. */
  readonly recordHand: () => void;
};

type Options = {
  lessonId: LessonId;
  recorder: Recorder;
  slots: Slots;
  rig: () => Rig;
  desk: () => PracticeDesk | null;
  arrangement: () => Arrangement;
  context: () => SessionContext;
};

const STRAGGLERS_MS = 3000;
/** A picture that cannot be opened by then has its own message; until then nothing is recorded without it. */
const PICTURE_MS = 20_000;

const after = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

export function openTaking({ lessonId, recorder, slots, rig, desk, arrangement, context }: Options): Taking {
  let hand: DeskHand | null = null;

  const start = async (): Promise<TakeId> => {
    await awaitSources(slots, rig());
    const id = newTakeId();
    const startedAt = new Date().toISOString();
    recorder.mute('voice', context().muted);
    // The practice desk begins its script with the take, so that every take shows the same minute and nothing from before it.
    const cueUs = await desk()?.cue();
    await recorder.start({ id, lessonId, rig: rig(), startedAt, ...machineFacts() });
    hand = cueUs === undefined ? null : openDeskHand(recorder, rig().picture.source, arrangement(), cueUs);
    const { scheduled, startAtMs } = context();
    if (scheduled) recorder.event('schedule', { lateMs: Date.now() - startAtMs }, pageNowUs());
    return id;
  };

  const stop = async (): Promise<TakeEnd> => {
    hand?.();
    const screen = context().figures?.video.screen;
    const end = await recorder.stop();
    if (screen?.picture) rememberEncoding(rig(), screen, screen.picture, end.ledger.screen);
    hurryUploader();
    return end;
  };

  const rehearseNow = async (order: RehearseOrder): Promise<Rehearsal> => {
    await awaitSources(slots, rig());
    recorder.mute('voice', context().muted);
    return rehearse({ ...order, recorder, lessonId, rig: rig(), desk });
  };

  return {
    recordHand: () => hand?.(),
    effects: {
      ...{ start, stop, rearm: slots.rearm, rehearse: rehearseNow },
      ...{ pause: recorder.pause, resume: recorder.resume, discard: recorder.discard, ticks: openTicks },
      mute: (muted) => recorder.mute('voice', muted),
    },
  };
}

/** No track waits for another: a source that is still opening after this joins the take when it comes. */
async function awaitSources(slots: Slots, rig: Rig): Promise<void> {
  const settled = slots.follow();
  const isOpening = () => slots.state('screen')?.state === 'opening';
  await Promise.race([settled, after(STRAGGLERS_MS)]);
  if (isOpening()) await Promise.race([settled, after(PICTURE_MS)]);
  if (!slots.source('screen') && rig.picture.source.from !== 'none')
    throw new ProblemError(isOpening() ? STILL_OPENING : NO_SOURCE);
}

const STILL_OPENING: Problem = {
  code: 'no-picture',
  message: 'The source is still opening.',
  hint: 'Wait until the picture appears.',
};
const NO_SOURCE: Problem = {
  code: 'no-picture',
  message: 'There is no source.',
  hint: 'Choose a source in Set up.',
};

/** What a take has shown of its encoder counts for the next one. */
function rememberEncoding(
  rig: Rig,
  { textHint, encoded, encodeP95Ms }: VideoFigures,
  picture: Size,
  ledger: FrameLedger | undefined,
): void {
  const { codec } = chooseCodec(rig.picture, knownOf(rig, picture).speeds ?? []);
  if (textHint) rememberHint(codec, picture, encoded, encodeP95Ms);
  // What the source lost says nothing of the encoder.
  if (ledger && isSeenLoss(ledger.dropped, ledger.arrived))
    rememberLoss(codec, textHint ?? false, picture, ledger);
}
