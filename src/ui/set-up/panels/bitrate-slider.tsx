'use client';

import { Button, Flex, Slider } from 'antd';
import { scaleLog } from 'd3-scale';
import { useEffect, useRef } from 'react';
import { bitrateText } from '@/core/base/figures';
import { framesPerSecond } from '@/core/base/rational';
import type { BitrateMarks } from '@/core/encoding/bitrate-marks';
import { megabytesPerMinute } from '@/core/encoding/rate';
import type { Crop } from '@/recorder/probe/messages';
import { Reason } from '../../fields/reasons';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';

const LEAST = 100;
const MOST = 40_000;
const STEPS = 100;
const toShare = scaleLog([LEAST, MOST], [0, 1]).clamp(true);
const toKbps = (step: number) => {
  const kbps = toShare.invert(step / STEPS);
  return kbps < 1000 ? Math.round(kbps / 10) * 10 : Math.round(kbps / 50) * 50;
};

/** The bitrate on a logarithmic scale, with the range measured on this source: where text breaks up, and above which nothing is gained. */
export function BitrateSlider() {
  const { rig, changePicture, measuring, plan } = useSetUp();
  const picture = usePicture();
  const { automaticKbps: automatic, bitrateKbps: kbps } = plan;
  const marks = measuring.measured?.marks;
  const breaks = marks?.legibilityKbps ?? null;
  const nothing = marks?.saturationKbps ?? null;
  const megabytes = megabytesPerMinute(kbps);
  const { width, height } = picture ?? { width: 1280, height: 720 };
  const perPixel = (kbps * 1000) / (width * height * framesPerSecond(rig.picture.frameRate));
  return (
    <div className="bitrate">
      <div className="bitrate-track">
        <Zones marks={marks} />
        <Slider
          ariaLabelForHandle="Bitrate"
          ariaValueTextFormatterForHandle={() =>
            `${bitrateText(kbps * 1000)}${breaks !== null && kbps < breaks ? ', text breaks up' : nothing !== null && kbps > nothing ? ', no visible gain' : ''}`
          }
          min={0}
          max={STEPS}
          value={Math.round(toShare(kbps) * STEPS)}
          tooltip={{
            open: true,
            getPopupContainer: (thumb) => thumb.parentElement ?? document.body,
            formatter: () => (
              <>
                <b>{bitrateText(kbps * 1000)}</b> up to{' '}
                {megabytes < 10 ? megabytes.toFixed(1) : megabytes.toFixed(0)} MB/min
              </>
            ),
          }}
          onChange={(step) => changePicture({ bitrateKbps: toKbps(step) })}
        />
      </div>
      <Flex className="small" style={{ marginTop: 20 }} justify="space-between" align="center" gap={12}>
        <span style={{ whiteSpace: 'nowrap' }}>{perPixel.toFixed(3)} bits/pixel</span>
        <MarksNote marks={marks} textPx={measuring.measured?.textPx} />
        <Button
          type="text"
          disabled={rig.picture.bitrateKbps === null}
          onClick={() => changePicture({ bitrateKbps: null })}
        >
          {rig.picture.bitrateKbps === null ? 'Automatic' : `Automatic: ${bitrateText(automatic * 1000)}`}
        </Button>
      </Flex>
      <Reason path="picture.bitrateKbps" />
    </div>
  );
}

/** The track behind the handle: where text breaks up, where it gains, and where nothing is gained. */
function Zones({ marks }: { marks: BitrateMarks | undefined }) {
  const percent = (value: number) => `${toShare(value) * 100}%`;
  return (
    <svg className="zones" width="100%" height="12" aria-hidden="true">
      <pattern id="breaks" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="8" height="8" fill="var(--amber-soft)" />
        <rect width="4" height="8" fill="var(--amber)" />
      </pattern>
      <rect width="100%" height="12" fill={marks ? 'var(--surface)' : 'var(--sunken)'} />
      {marks && <rect width={percent(marks.saturationKbps ?? MOST)} height="12" fill="var(--river)" />}
      {marks && <rect width={percent(marks.legibilityKbps ?? LEAST)} height="12" fill="url(#breaks)" />}
    </svg>
  );
}

/** @param textPx height of the smallest text that was found; null where none was */
function MarksNote({
  marks,
  textPx,
}: {
  marks: BitrateMarks | undefined;
  textPx: number | null | undefined;
}) {
  if (!marks)
    return (
      <span className="mute">
        An upper limit for busy moments; a still screen uses far less. Measure to see where text breaks up.
      </span>
    );
  const { legibilityKbps: breaks, saturationKbps: nothing } = marks;
  return (
    <>
      <span className={breaks === null ? '' : 'amber'}>
        {textPx === null
          ? 'no text found to judge bitrates by'
          : breaks === null
            ? 'text already clear at the lowest bitrate tested'
            : `text breaks up below ${bitrateText(breaks * 1000)}`}
      </span>
      <span>
        {nothing === null
          ? `slightly clearer up to ${bitrateText((marks.trials.at(-1)?.askedKbps ?? 0) * 1000)}`
          : `no visible gain above ${bitrateText(nothing * 1000)}`}
      </span>
    </>
  );
}

/** Part of a picture, a pixel of it for a pixel of this screen. @param scale how it arrives where it is watched */
export function CropPicture({ crop, label, scale = 1 }: { crop: Crop; label: string; scale?: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pixels = new ImageData(crop.width, crop.height);
    pixels.data.set(crop.data);
    canvas.current?.getContext('2d')?.putImageData(pixels, 0, 0);
  }, [crop]);
  return (
    <canvas
      ref={canvas}
      className="crop"
      width={crop.width}
      height={crop.height}
      style={{ width: (crop.width * scale) / (globalThis.devicePixelRatio ?? 1) }}
      role="img"
      aria-label={label}
    />
  );
}
