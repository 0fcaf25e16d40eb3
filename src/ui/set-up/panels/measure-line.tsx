'use client';

import { Button } from 'antd';
import { bitrateText } from '@/core/figures';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';
import { CropPicture } from './bitrate-slider';

/** What of the encoders was measured here, and measuring it now. */
export function MeasureLine() {
  const { speeds, measuring } = useSetUp();
  const picture = usePicture();
  const { measure, doing, measured, problem } = measuring;
  return (
    <>
      <p className="small mute grow" role="status">
        {doing === 'encoders'
          ? 'Measuring encoders …'
          : doing === 'picture'
            ? 'Measuring bitrates on this source …'
            : (problem ??
              (speeds.length === 0
                ? 'Not measured at this size yet.'
                : measured
                  ? `Measured here; bitrates on ${measured.pictures} ${measured.pictures === 1 ? 'frame' : 'frames'} of this source.`
                  : 'Encoders are measured; bitrates are not.'))}
      </p>
      <Button type="text" disabled={doing !== null || !picture} onClick={() => void measure('all')}>
        {measured ? 'Measure again' : 'Measure on this source'}
      </Button>
    </>
  );
}

/** The same text at the least and at the most bitrate that were tried. */
export function TextCrops() {
  const { measured } = useSetUp().measuring;
  if (!measured || measured.crops.length < 2) return null;
  return (
    <div className="crops">
      {measured.crops.map(({ askedKbps, crop }) => (
        <figure key={askedKbps}>
          <CropPicture crop={crop} label={`Text at ${bitrateText(askedKbps * 1000)}`} />
          <figcaption className="small mute">at {bitrateText(askedKbps * 1000)}</figcaption>
        </figure>
      ))}
    </div>
  );
}
