'use client';

import { Button, Flex } from 'antd';
import { bitrateText } from '@/core/base/figures';
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

/** The same text as it is captured, at the bitrate that is set, and at the least that was tried. */
export function TextCrops() {
  const { measuring, plan } = useSetUp();
  const { measured } = measuring;
  if (!measured) return null;
  const distance = (kbps: number | null) =>
    kbps === null ? Number.POSITIVE_INFINITY : Math.abs(Math.log(kbps / plan.bitrateKbps));
  const tried = measured.crops.filter(({ askedKbps }) => askedKbps !== null);
  const [nearest] = [...tried].sort((a, b) => distance(a.askedKbps) - distance(b.askedKbps));
  const [least] = tried;
  const shown = [
    { name: 'Before: as captured', of: measured.crops.find(({ askedKbps }) => askedKbps === null) },
    { name: 'After', of: nearest },
    { name: 'Lowest tested', of: least === nearest ? undefined : least },
  ];
  return (
    <Flex wrap gap={12} role="group" aria-label="Text before and after encoding, at pixel scale">
      {shown.map(({ name, of }) => {
        if (!of) return null;
        const words = of.askedKbps === null ? name : `${name}: ${bitrateText(of.askedKbps * 1000)}`;
        return (
          <figure key={name}>
            <CropPicture crop={of.crop} label={words} />
            <figcaption className="small mute">{words}</figcaption>
          </figure>
        );
      })}
    </Flex>
  );
}
