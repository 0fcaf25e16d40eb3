'use client';

import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import type { VideoCodec } from '@/core/codec/codecs';
import type { EncoderSpeed } from '@/core/encoding/encoder-speed';
import { type EncodingPlan, planEncoding } from '@/core/encoding/encoding-plan';
import { type Flow, flowOf } from '@/core/encoding/flow';
import { type MeasuredTake, measuredFor } from '@/core/encoding/measured';
import type { HintChoice } from '@/core/encoding/rate';
import { type Facts, type Finding, preflight } from '@/core/findings/preflight';
import { standingReasons } from '@/core/rig/purposes';
import type { Rig } from '@/core/rig/rig';
import { ReasonsContext } from '../fields/reasons';
import { useRoom, useSourceStates } from '../lesson/lesson-room';
import { useActivity, useFacts, usePicture } from './use-facts';
import { useHeld } from './use-held';
import { useMeasuring } from './use-measuring';

type SetUp = {
  rig: Rig;
  changeRig: (change: (rig: Rig) => Rig) => void;
  changePicture: (part: Partial<Rig['picture']>) => void;
  findings: Finding[];
  flow: Flow;
  speeds: readonly EncoderSpeed[];
  /** How the picture is going to be encoded, and why. */
  plan: EncodingPlan;
  codec: { codec: VideoCodec; reason: string };
  hint: HintChoice;
  /** Where what the flow shows was measured: "in the last take"; null where it is estimated. */
  measuredWhere: string | null;
  measuring: ReturnType<typeof useMeasuring>;
  /** Width ÷ height that a region keeps while its edges are drawn; null when it is free. */
  aspect: [aspect: number | null, set: (aspect: number | null) => void];
  /** The next click on the camera picks the key colour. */
  picking: [picking: boolean, set: (picking: boolean) => void];
};

/** What the newest take or rehearsal says of the rig, the newer of the two that fit, and what it is called in a sentence. */
function newestMeasured(take: MeasuredTake | null, rehearsal: Facts['rehearsal'], rig: Rig) {
  const of = rehearsal && {
    ...rehearsal.of,
    where: `in rehearsal ${rehearsal.of.number}, ${rehearsal.ago}`,
  };
  const known = [of, take && { ...take, where: 'in the last take' }].filter((each) => each !== null);
  for (const each of known.sort((a, b) => b.startedAt.localeCompare(a.startedAt))) {
    const measured = measuredFor(each, rig);
    if (measured) return { measured, where: each.where };
  }
  return null;
}

/** Until a source is there. */
const USUAL_SIZE = { width: 1280, height: 720 };

const SetUpContext = createContext<SetUp | null>(null);

export function useSetUp(): SetUp {
  const setUp = useContext(SetUpContext);
  if (!setUp) throw new Error('Only inside Set up.');
  return setUp;
}

export const useAspect = () => useSetUp().aspect;
export const usePicking = () => useSetUp().picking;

/** Computes once what every part of Set up shows, so that no figure contradicts another. */
export function SetUpProvider({ children }: { children: ReactNode }) {
  const { lesson, rig, changeRig, session } = useRoom();
  const states = useSourceStates(session);
  const picture = usePicture();
  const measuring = useMeasuring();
  const [aspect, setAspect] = useState<number | null>(null);
  const [picking, setPicking] = useState(false);
  const marks = measuring.measured?.marks ?? null;
  const facts = useFacts(marks, measuring.measured?.textPx ?? null, useActivity());
  const { speeds } = facts;
  const findings = useHeld(
    rig,
    useMemo(() => preflight(rig, facts), [rig, facts]),
  );
  const reasons = useMemo(() => standingReasons(rig), [rig]);
  const value = useMemo((): SetUp => {
    const plan = planEncoding(rig.picture, picture ?? USUAL_SIZE, facts);
    const codec = { codec: plan.codec, reason: plan.codecReason };
    const { hint } = plan;
    const measured = newestMeasured(lesson.measured, facts.rehearsal, rig);
    return {
      rig,
      changeRig,
      changePicture: (part) => changeRig((old) => ({ ...old, picture: { ...old.picture, ...part } })),
      findings,
      flow: flowOf(rig, {
        source: states.screen?.size,
        cameraSize: states.camera?.size,
        soundDevices: { voice: states.voice?.gives, appSound: states['app-sound']?.gives },
        codec: codec.codec,
        textHint: hint.hint,
        measured: measured?.measured ?? null,
        marks,
      }),
      measuredWhere: measured?.where ?? null,
      speeds,
      plan,
      codec,
      hint,
      measuring,
      aspect: [aspect, setAspect],
      picking: [picking, setPicking],
    };
  }, [
    rig,
    changeRig,
    findings,
    facts,
    speeds,
    picture,
    states,
    marks,
    measuring,
    aspect,
    picking,
    lesson.measured,
  ]);
  return (
    <SetUpContext.Provider value={value}>
      <ReasonsContext.Provider value={reasons}>{children}</ReasonsContext.Provider>
    </SetUpContext.Provider>
  );
}
