'use client';

import { Button } from 'antd';
import { arrivalVerdict, arrivingPx, VIEWERS } from '@/core/letters';
import { Choice } from '../choices';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';
import { CropPicture } from './bitrate-slider';

const VERDICTS = {
  good: 'they are read without effort',
  hard: 'they are hard to read',
  unreadable: 'nobody can read them: a smaller window or larger letters are the cure',
};

/** How tall letters are where the lesson is watched, and what they look like there, a pixel for a pixel. */
export function ViewingSize() {
  const { rig, changePicture, measuring } = useSetUp();
  const picture = usePicture();
  const { measured, doing, measure } = measuring;
  const viewer = VIEWERS.find(({ id }) => id === rig.picture.viewer) ?? VIEWERS[1];
  const crop = measured?.crops.at(-1)?.crop;
  const scale = picture ? Math.min(viewer.width / picture.width, viewer.height / picture.height) : 1;
  const px = measured?.letterPx && picture ? arrivingPx(measured.letterPx, picture, viewer) : null;
  return (
    <>
      <Choice
        name="Where it is watched"
        value={viewer.id}
        options={VIEWERS.map(({ id, name, width, height }) => ({
          value: id,
          label: `${name}, ${width} × ${height}`,
        }))}
        onChange={(id) => changePicture({ viewer: id as typeof viewer.id })}
        note={
          px !== null && measured
            ? `Letters are ${measured.letterPx} pixels tall in the picture and arrive ${px.toFixed(1)} tall: ${VERDICTS[arrivalVerdict(px)]}.`
            : measured
              ? 'No text was found in what is shown now.'
              : undefined
        }
      />
      <div className="choice">
        <span className="lab">As it arrives there</span>
        {crop ? (
          <div className="arriving" style={{ width: crop.width * scale, height: crop.height * scale }}>
            <CropPicture crop={crop} label={`Text as it arrives in ${viewer.name.toLowerCase()}`} />
          </div>
        ) : (
          <Button type="text" disabled={doing !== null || !picture} onClick={() => void measure('all')}>
            {doing ? 'Measuring …' : 'Measure on this picture'}
          </Button>
        )}
      </div>
    </>
  );
}
