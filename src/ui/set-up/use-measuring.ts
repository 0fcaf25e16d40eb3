'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { problemOf } from '@/core/base/problem';
import type { Size } from '@/core/base/sizes';
import { type BitrateMarks, bitrateMarks } from '@/core/encoding/bitrate-marks';
import { chooseCodec } from '@/core/encoding/encoder-speed';
import type { Rig } from '@/core/rig/rig';
import { measuredSpeeds, rememberSpeeds } from '@/recorder/headroom';
import type { Crop } from '@/recorder/probe/messages';
import { probeMarks, probeSpeeds } from '@/recorder/probe/probe';
import { useRoom } from '../lesson/lesson-room';
import { useLiveRecording } from '../recording/use-live-recording';
import { usePicture } from './use-facts';

/** The marks of what was captured then, and for which encoding they hold. */
export type Measured = {
  key: string;
  marks: BitrateMarks;
  pictures: number;
  textPx: number | null;
  crops: { askedKbps: number | null; crop: Crop }[];
};

/** Nobody changes anything for so long: then what is not known of this choice is measured. */
const IDLE_MS = 3000;

/** What a measurement holds for, as one text. */
const encodingText = (
  size: Size | undefined,
  { aim, box, fit, frameRate, codec, profile, rateControl, quantizer, textHint }: Rig['picture'],
): string =>
  JSON.stringify([size, { aim, box, fit, frameRate, codec, profile, rateControl, quantizer, textHint }]);

/** Measures this browser's encoders at the picture's size, and what bitrates do to what is being captured. */
export function useMeasuring() {
  const { rig, session } = useRoom();
  const picture = usePicture();
  const [measured, setMeasured] = useState<Measured | null>(null);
  const [doing, setDoing] = useState<'encoders' | 'picture' | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const running = useRef<AbortController>(undefined);
  const key = encodingText(picture, rig.picture);
  const latest = useRef({ rig, picture, session, key });
  latest.current = { rig, picture, session, key };

  // What could not be measured once is not tried again and again.
  const tried = useRef(new Set<string>());

  const measure = useCallback(async (what: 'missing' | 'all') => {
    const { picture: size, session: open } = latest.current;
    if (!size || running.current) return;
    const own = new AbortController();
    running.current = own;
    const of = latest.current.key;
    setProblem(null);
    try {
      setDoing('encoders');
      if (what === 'all' || measuredSpeeds(size).length === 0)
        rememberSpeeds(size, await probeSpeeds(size, latest.current.rig.picture.frameRate, own.signal));
      if (!open) return;
      setDoing('picture');
      const { source: _source, ...asked } = latest.current.rig.picture;
      const { codec } = chooseCodec(asked, measuredSpeeds(size));
      const { trials, pictures, textPx, crops } = await probeMarks(open, { ...asked, codec }, own.signal);
      setMeasured({ key: of, marks: bitrateMarks(trials), pictures, textPx, crops });
    } catch (error) {
      if (own.signal.aborted) tried.current.delete(of);
      else setProblem(problemOf(error).message);
    } finally {
      running.current = undefined;
      setDoing(null);
    }
  }, []);

  // What is measured of a choice that was changed meanwhile would hold for nothing.
  // biome-ignore lint/correctness/useExhaustiveDependencies: each choice ends what runs for the one before
  useEffect(() => () => running.current?.abort(), [key]);

  const now = measured?.key === key ? measured : null;
  // A recording that runs anywhere in this browser needs the machine for itself.
  const busy = useLiveRecording() !== null;
  const unknown = picture !== undefined && !now && !busy && !tried.current.has(key);
  // Also one that begins while something is being measured.
  useEffect(() => {
    if (busy) running.current?.abort();
  }, [busy]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: any change of the rig begins the wait again
  useEffect(() => {
    if (!unknown) return;
    let timer: ReturnType<typeof setTimeout>;
    const begin = () => {
      // What is under way is of a choice that was changed meanwhile; what nobody sees can wait.
      if (running.current || document.hidden) {
        timer = setTimeout(begin, IDLE_MS);
        return;
      }
      tried.current.add(key);
      void measure('missing');
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
