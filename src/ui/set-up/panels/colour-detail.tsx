'use client';

import { Collapse, Flex } from 'antd';
import { useEffect, useState } from 'react';
import { halveColour } from '@/core/image/chroma';
import { colourWindows, textClarity } from '@/core/image/clarity';
import type { Crop } from '@/recorder/probe/messages';
import { CropPicture } from './bitrate-slider';

const SIZE = { width: 190, height: 58 };

/** Small coloured text, drawn as a program draws it. */
function drawSample(): Crop | null {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, SIZE);
  const pen = canvas.getContext('2d', { willReadFrequently: true });
  if (!pen) return null;
  pen.fillStyle = '#ffffff';
  pen.fillRect(0, 0, SIZE.width, SIZE.height);
  pen.font = '13px "Atkinson Hyperlegible Next Variable", sans-serif';
  for (const [i, [text, colour]] of (
    [
      ['0415 Returned', '#1f5fbf'],
      ['0416 Checked in', '#b3261e'],
      ['0417 Drying', '#8a2be2'],
    ] as const
  ).entries()) {
    pen.fillStyle = colour;
    pen.fillText(text, 8, 16 + i * 18);
  }
  return { ...SIZE, data: pen.getImageData(0, 0, SIZE.width, SIZE.height).data };
}

/** What chroma subsampling does to coloured text. */
export function ColourDetail() {
  const [both, setBoth] = useState<{ whole: Crop; halved: Crop; kept: number } | null>(null);
  useEffect(() => {
    void document.fonts.ready.then(() => {
      const whole = drawSample();
      if (!whole) return;
      const { rgba, chroma, halvedChroma } = halveColour(whole.data, SIZE);
      const before = { ...SIZE, data: chroma };
      const { mean } = textClarity(before, { ...SIZE, data: halvedChroma }, colourWindows(before));
      setBoth({ whole, halved: { ...SIZE, data: rgba }, kept: mean });
    });
  }, []);
  return (
    <Collapse
      className="wide"
      ghost
      size="small"
      items={[
        {
          key: 'colour',
          label: 'Chroma subsampling 4:2:0: coloured text loses some sharpness',
          children: (
            <Flex wrap gap={12}>
              {both && (
                <>
                  <figure>
                    <CropPicture crop={both.halved} label="Coloured text with 4:2:0" />
                    <figcaption className="small mute">4:2:0, a quarter of the chroma samples</figcaption>
                  </figure>
                  <figure>
                    <CropPicture crop={both.whole} label="Coloured text with 4:4:4" />
                    <figcaption className="small mute">4:4:4, all chroma samples</figcaption>
                  </figure>
                </>
              )}
              <p className="small mute">
                {both && `Colour clarity of this text with 4:2:0: ${both.kept.toFixed(2)} of 1. `}
                Browsers deliver captured frames as 4:2:0, so recording 4:4:4 would gain nothing. No bitrate
                fixes this; larger text, or dark text on a light background, does.
              </p>
            </Flex>
          ),
        },
      ]}
    />
  );
}
