'use client';

import { useEffect, useState } from 'react';
import { halveColour } from '@/core/chroma';
import { colourWindows, textClarity } from '@/core/clarity';
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

/** What halving the colour does to coloured letters, and where all of it can be kept. */
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
    <details className="colour-detail">
      <summary>
        Colour detail <b>4:2:0</b>{' '}
        <span className="small mute">coloured letters lose some of their edge</span>
      </summary>
      <div className="crops">
        {both && (
          <>
            <figure>
              <CropPicture crop={both.halved} label="Coloured text with 4:2:0" />
              <figcaption className="small mute">4:2:0, a quarter of the colour</figcaption>
            </figure>
            <figure>
              <CropPicture crop={both.whole} label="Coloured text with 4:4:4" />
              <figcaption className="small mute">4:4:4, all of it</figcaption>
            </figure>
          </>
        )}
        <p className="small mute">
          {both && `Of the colour of these letters 4:2:0 keeps ${both.kept.toFixed(2)} of 1. `}
          Browsers hand captured pictures over as 4:2:0 already, so recording them as 4:4:4 would keep nothing
          more. No bitrate mends it: larger letters, or dark ones on a light ground, do.
        </p>
      </div>
    </details>
  );
}
