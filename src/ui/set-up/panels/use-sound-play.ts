'use client';

import { useEffect, useRef, useState } from 'react';
import type { Treatment } from '@/core/audio/treatment';
import { RNNOISE_WASM, TREAT_PROCESSOR, TREAT_WORKLET } from '@/sound/names';

type Sound = { samples: Float32Array<ArrayBuffer>; sampleRate: number };
type Which = 'raw' | 'kept';
type Playing = { which: Which; context: AudioContext; treat: AudioWorkletNode | null };

/**
 * Plays sounds through the treatment, which is heard to change while it plays.
 * @param treatment of what is played treated
 */
export function useSoundPlay(treatment: Treatment) {
  const [playing, setPlaying] = useState<Which | null>(null);
  const now = useRef<Playing | null>(null);
  const stop = () => {
    void now.current?.context.close();
    now.current = null;
    setPlaying(null);
  };
  const play = async (which: Which, { samples, sampleRate }: Sound, treated: boolean) => {
    stop();
    // The worklet's network knows one rate; the browser brings what is played to it.
    const context = new AudioContext({ sampleRate: 48_000 });
    const mine: Playing = { which, context, treat: null };
    now.current = mine;
    setPlaying(which);
    const buffer = context.createBuffer(1, samples.length, sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = new AudioBufferSourceNode(context, { buffer });
    if (treated) {
      const [wasm] = await Promise.all([
        fetch(RNNOISE_WASM).then((response) => response.arrayBuffer()),
        context.audioWorklet.addModule(TREAT_WORKLET),
      ]);
      if (now.current !== mine) return;
      mine.treat = new AudioWorkletNode(context, TREAT_PROCESSOR, {
        outputChannelCount: [1],
        processorOptions: { wasm, treatment },
      });
      source.connect(mine.treat).connect(context.destination);
    } else source.connect(context.destination);
    source.onended = () => {
      if (now.current === mine) stop();
    };
    await context.resume();
    source.start();
  };
  // Turned on and off while it plays.
  useEffect(() => {
    now.current?.treat?.port.postMessage(treatment);
  }, [treatment]);
  useEffect(() => () => void now.current?.context.close(), []);
  return { playing, play, stop };
}
