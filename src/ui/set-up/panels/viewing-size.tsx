'use client';

import { Button } from 'antd';
import { arrivalVerdict, arrivingPx, VIEWERS } from '@/core/image/text-height';
import { RigSelect } from '../rig-field';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';
import { CropPicture } from './bitrate-slider';

const VERDICTS = {
  good: 'easy to read',
  hard: 'hard to read',
  unreadable: 'too small to read. Record a smaller window, or enlarge its text',
};

/** How tall text are where the lesson is watched, and what they look like there, a pixel for a pixel. */
export function ViewingSize() {
  const { rig, measuring } = useSetUp();
  const picture = usePicture();
  const { measured, doing, measure } = measuring;
  const viewer = VIEWERS.find(({ id }) => id === rig.picture.viewer) ?? VIEWERS[1];
  const crop = measured?.crops.at(-1)?.crop;
  const scale = picture ? Math.min(viewer.width / picture.width, viewer.height / picture.height) : 1;
  const px = measured?.textPx && picture ? arrivingPx(measured.textPx, picture, viewer) : null;
  return (
    <>
      <RigSelect
        path="picture.viewer"
        options={VIEWERS.map(({ id, name, width, height }) => ({
          value: id,
          label: `${name}, ${width} × ${height}`,
        }))}
        note={
          px !== null && measured
            ? `Text is ${measured.textPx} px tall in the picture and ${px.toFixed(1)} px tall for viewers: ${VERDICTS[arrivalVerdict(px)]}.`
            : measured
              ? 'No text was found in the source.'
              : undefined
        }
      />
      <div className="choice">
        <span className="lab">Text at the viewing size</span>
        {crop ? (
          <CropPicture
            crop={crop}
            scale={scale}
            label={`Text at the viewing size of ${viewer.name.toLowerCase()}`}
          />
        ) : (
          <Button type="text" disabled={doing !== null || !picture} onClick={() => void measure('all')}>
            {doing ? 'Measuring …' : 'Measure on this source'}
          </Button>
        )}
      </div>
    </>
  );
}
