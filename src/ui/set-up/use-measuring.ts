'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { type BitrateMarks, bitrateMarks } from '@/core/bitrate-marks';
import { chooseCodec } from '@/core/encoder-speed';
import { problemOf } from '@/core/problem';
import { measuredSpeeds, rememberSpeeds } from '@/recorder/headroom';
import type { Crop } from '@/recorder/probe/messages';
import { probeMarks, probeSpeeds } from '@/recorder/probe/probe';
import { useRoom } from '../lesson/lesson-room';
import { useLiveRecording } from '../recording/use-live-recording';
import { useEncoders, usePicture } from './use-facts';

/** The marks of what was captured then, and for which encoding they hold. */
export type Measured = {
  key: string;
  marks: BitrateMarks;
  pictures: number;
  textPx: number | null;
  crops: { askedKbps: number; crop: Crop }[];
};

/** Nobody changes anything for so long: then the encoders of this size are measured, if they never were. */
const IDLE_MS = 3000;

/** Measures this browser's encoders at the picture's size, and what bitrates do to what is being captured. */
export function useMeasuring() {
  const { rig, session } = useRoom();
  const picture = usePicture();
  const { speeds } = useEncoders();
  const [measured, setMeasured] = useState<Measured | null>(null);
  const [doing, setDoing] = useState<'encoders' | 'picture' | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const running = useRef<AbortController>(undefined);
  const { aim, box, fit, frameRate, codec, profile, rateControl, quantizer, textHint } = rig.picture;
  const key = JSON.stringify([
    picture,
    { aim, box, fit, frameRate, codec, profile, rateControl, quantizer, textHint },
  ]);
  const latest = useRef({ rig, picture, session, key });
  latest.current = { rig, picture, session, key };

  const measure = useCallback(async (what: 'encoders' | 'all') => {
    const { picture: size, session: open } = latest.current;
    if (!size || running.current) return;
    const own = new AbortController();
    running.current = own;
    setProblem(null);
    try {
      setDoing('encoders');
      if (what === 'all' || measuredSpeeds(size).length === 0)
        rememberSpeeds(size, await probeSpeeds(size, latest.current.rig.picture.frameRate, own.signal));
      if (what === 'encoders' || !open) return;
      setDoing('picture');
      const { source: _source, ...asked } = latest.current.rig.picture;
      const { codec } = chooseCodec(asked, measuredSpeeds(size));
      const of = latest.current.key;
      const { trials, pictures, textPx, crops } = await probeMarks(open, { ...asked, codec }, own.signal);
      setMeasured({ key: of, marks: bitrateMarks(trials), pictures, textPx, crops });
    } catch (error) {
      if (!own.signal.aborted) setProblem(problemOf(error).message);
    } finally {
      running.current = undefined;
      if (!own.signal.aborted) setDoing(null);
    }
  }, []);

  useEffect(() => () => running.current?.abort(), []);

  const now = measured?.key === key ? measured : null;
  // What could not be measured once is not tried again and again.
  const tried = useRef(new Set<string>());
  // A recording that runs anywhere in this browser needs the machine for itself.
  const busy = useLiveRecording() !== null;
  const unknown = picture !== undefined && speeds.length === 0 && !busy && !tried.current.has(key);
  // biome-ignore lint/correctness/useExhaustiveDependencies: any change of the rig begins the wait again
  useEffect(() => {
    if (!unknown) return;
    let timer: ReturnType<typeof setTimeout>;
    const begin = () => {
      // What is under way is of a choice that was changed meanwhile.
      if (running.current) {
        timer = setTimeout(begin, IDLE_MS);
        return;
      }
      tried.current.add(key);
      void measure('encoders');
    };
    timer = setTimeout(begin, IDLE_MS);
    return () => clearTimeout(timer);
  }, [unknown, rig, measure]);

  return {
    measure,
    doing,
    problem,
    /** Null when nothing was measured that holds for the present encoding. */
    measured: now,
  };
}
