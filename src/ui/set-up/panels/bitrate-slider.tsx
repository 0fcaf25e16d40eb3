'use client';

import { useEffect, useRef } from 'react';
import { bitrateText } from '@/core/figures';
import { automaticBitrateKbps, megabytesPerMinute } from '@/core/rate';
import { framesPerSecond } from '@/core/rational';
import type { Crop } from '@/recorder/probe/messages';
import { Reason } from '../choices';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';

const LEAST = 100;
const MOST = 40_000;
const STEPS = 1000;
const toShare = (kbps: number) =>
  Math.log(Math.min(MOST, Math.max(LEAST, kbps)) / LEAST) / Math.log(MOST / LEAST);
const toKbps = (step: number) => {
  const kbps = LEAST * (MOST / LEAST) ** (step / STEPS);
  return kbps < 1000 ? Math.round(kbps / 10) * 10 : Math.round(kbps / 50) * 50;
};

/** The bitrate on a log scale, with what was measured on what is shown: where text breaks, and over what nothing is gained. */
export function BitrateSlider() {
  const { rig, changePicture, measuring } = useSetUp();
  const picture = usePicture();
  const automatic = automaticBitrateKbps(picture ?? { width: 1280, height: 720 }, rig.picture.frameRate);
  const kbps = rig.picture.bitrateKbps ?? automatic;
  const marks = measuring.measured?.marks;
  const breaks = marks?.breaksUnderKbps ?? null;
  const nothing = marks?.nothingOverKbps ?? null;
  const percent = (value: number) => `${toShare(value) * 100}%`;
  const megabytes = megabytesPerMinute(kbps);
  const { width, height } = picture ?? { width: 1280, height: 720 };
  const perPixel = (kbps * 1000) / (width * height * framesPerSecond(rig.picture.frameRate));
  return (
    <div className="bitrate">
      <div className="bitrate-track">
        <output className="bubble" style={{ left: percent(kbps) }}>
          <b>{bitrateText(kbps * 1000)}</b> at most{' '}
          {megabytes < 10 ? megabytes.toFixed(1) : megabytes.toFixed(0)} MB a minute
        </output>
        <div className="zones" aria-hidden="true">
          {marks ? (
            <>
              <i className="breaks" style={{ width: percent(breaks ?? LEAST) }} />
              <i
                className="clear"
                style={{ left: percent(breaks ?? LEAST), right: `calc(100% - ${percent(nothing ?? MOST)})` }}
              />
            </>
          ) : (
            <i className="unknown" />
          )}
        </div>
        <input
          type="range"
          aria-label="Bitrate"
          min={0}
          max={STEPS}
          value={Math.round(toShare(kbps) * STEPS)}
          aria-valuetext={`${bitrateText(kbps * 1000)}${breaks !== null && kbps < breaks ? ', text breaks' : nothing !== null && kbps > nothing ? ', nothing gained' : ''}`}
          onChange={({ target }) => changePicture({ bitrateKbps: toKbps(target.valueAsNumber) })}
        />
      </div>
      <div className="bitrate-words small">
        <span>{perPixel.toFixed(3)} bits a pixel</span>
        {marks ? (
          <>
            <span className={breaks === null ? '' : 'amber'}>
              {breaks === null
                ? 'clear from the least that was tried'
                : `text breaks under ${bitrateText(breaks * 1000)}`}
            </span>
            <span>
              {nothing === null
                ? `still a little clearer at ${bitrateText((marks.trials.at(-1)?.askedKbps ?? 0) * 1000)}`
                : `nothing gained over ${bitrateText(nothing * 1000)}`}
            </span>
          </>
        ) : (
          <span className="mute">
            A ceiling for busy moments; a still screen costs far less. Measure to see where text breaks.
          </span>
        )}
        <button
          type="button"
          className="act quiet"
          disabled={rig.picture.bitrateKbps === null}
          onClick={() => changePicture({ bitrateKbps: null })}
        >
          {rig.picture.bitrateKbps === null ? 'Automatic' : `Automatic: ${bitrateText(automatic * 1000)}`}
        </button>
      </div>
      <Reason path="picture.bitrateKbps" />
    </div>
  );
}

/** A piece of a picture, a pixel for a pixel. */
export function CropPicture({ crop, label }: { crop: Crop; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pixels = new ImageData(crop.width, crop.height);
    pixels.data.set(crop.data);
    canvas.current?.getContext('2d')?.putImageData(pixels, 0, 0);
  }, [crop]);
  return <canvas ref={canvas} width={crop.width} height={crop.height} role="img" aria-label={label} />;
}
