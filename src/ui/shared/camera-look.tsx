'use client';

import { useId } from 'react';
import { type ColourKey, firstKey, isGreyWall } from '@/core/colour-key';
import type { CameraPlace } from '@/core/rig';
import { Pebbles } from '../set-up/choices';
import { type ChangeHow, Slider } from './slider';

const BORDER = { width: 0.004, colour: '#fffdf8' };
/** Until one is picked: the wall that the practice presenter stands before. */
const FIRST_COLOUR = '#3fae62';

/** How the camera looks where it lies over the screen: in Set up for what comes, in Edit for what was recorded. */
export function CameraLook(props: {
  place: CameraPlace;
  onChange: (part: Partial<CameraPlace>, how: ChangeHow) => void;
  /** Picks the wall's colour from the picture; absent where no live picture is there. */
  onPick?: { picking: boolean; begin: () => void };
  keyNote?: string;
}) {
  const { place, onChange, onPick } = props;
  const { key, border } = place;
  const colour = useId();
  return (
    <>
      <Pebbles
        name="Shape"
        value={place.shape}
        options={[
          { value: 'rounded', label: 'Rounded' },
          { value: 'circle', label: 'Circle' },
          { value: 'rectangle', label: 'Rectangle' },
          { value: 'tall', label: 'Whole height' },
        ]}
        onChange={(shape) => onChange({ shape }, 'step')}
      />
      <Pebbles
        name="Line around it"
        value={border ? (border.colour === BORDER.colour ? 'light' : 'dark') : 'none'}
        options={[
          { value: 'none', label: 'None' },
          { value: 'light', label: 'Light' },
          { value: 'dark', label: 'Dark' },
        ]}
        onChange={(kind) =>
          onChange(
            { border: kind === 'none' ? null : kind === 'light' ? BORDER : { ...BORDER, colour: '#17292b' } },
            'step',
          )
        }
      />
      <Pebbles
        name="Wall behind"
        value={key ? 'away' : 'stays'}
        options={[
          { value: 'stays', label: 'Stays' },
          { value: 'away', label: 'Taken away by its colour' },
        ]}
        onChange={(kind) => onChange({ key: kind === 'away' ? firstKey(FIRST_COLOUR) : null }, 'step')}
        note={key ? props.keyNote : undefined}
      />
      {key && (
        <div className="choice wall-key">
          <span className="row">
            <label className="lab" htmlFor={colour}>
              Its colour
            </label>
            <input
              id={colour}
              type="color"
              value={key.colour}
              onChange={({ target }) => onChange({ key: firstKey(target.value) }, 'step')}
            />
            {onPick && (
              <button
                type="button"
                className="act quiet"
                aria-pressed={onPick.picking}
                onClick={onPick.begin}
              >
                {onPick.picking ? 'Click on the wall in the camera' : 'Pick it from the picture'}
              </button>
            )}
          </span>
          {isGreyWall(key.colour) && (
            <p className="small" role="status">
              This wall has hardly any colour: greys of you and your clothes go with it.
            </p>
          )}
          {SHARES.map(({ field, name, most }) => (
            <Share
              key={field}
              name={name}
              value={key[field]}
              most={most}
              least={field === 'tolerance' ? 0.01 : 0}
              onChange={(value, how) => onChange({ key: { ...key, [field]: value } }, how)}
            />
          ))}
        </div>
      )}
    </>
  );
}

const SHARES: { field: keyof Omit<ColourKey, 'colour'>; name: string; most: number }[] = [
  { field: 'tolerance', name: 'Tolerance', most: 0.2 },
  { field: 'softness', name: 'Softness', most: 0.2 },
  { field: 'spill', name: 'Spill taken back', most: 1 },
];

function Share(props: {
  name: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number, how: ChangeHow) => void;
}) {
  const text = `${Math.round((100 * props.value) / props.most)} %`;
  return (
    <div className="share">
      <span>{props.name}</span>
      <Slider
        name={props.name}
        min={props.least}
        max={props.most}
        step={0.005}
        value={props.value}
        text={text}
        colour="plum"
        onChange={props.onChange}
      />
      <span className="fig">{text}</span>
    </div>
  );
}
