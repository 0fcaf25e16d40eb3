'use client';

import { Button, ColorPicker, Flex } from 'antd';
import { useId } from 'react';
import { type ColourKey, firstKey, isGreyWall } from '@/core/image/colour-key';
import type { CameraPlace } from '@/core/rig/rig';
import { Pebbles } from './choices';
import { type ChangeHow, Slider } from './slider';

const BORDER = { width: 0.004, colour: '#fffdf8' };
/** Until one is picked: the wall of the second practice camera. */
const FIRST_COLOUR = '#3fae62';

/** How the camera overlay looks: in Set up for what comes, in Edit for what was recorded. */
export function CameraLook(props: {
  place: CameraPlace;
  onChange: (part: Partial<CameraPlace>, how: ChangeHow) => void;
  /** Picks the wall's colour from the picture; absent where no live picture is there. */
  onPick?: { picking: boolean; begin: () => void };
  keyNote?: string;
}) {
  const { place, onChange, onPick } = props;
  const { key, border } = place;
  return (
    <>
      <Pebbles
        name="Shape"
        value={place.shape}
        options={[
          { value: 'rounded', label: 'Rounded' },
          { value: 'circle', label: 'Circle' },
          { value: 'rectangle', label: 'Rectangle' },
          { value: 'tall', label: 'Full height' },
        ]}
        onChange={(shape) => onChange({ shape }, 'step')}
      />
      <Pebbles
        name="Border"
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
      <CameraBackground
        colourKey={key}
        onChange={(next, how) => onChange({ key: next }, how)}
        onPick={onPick}
        keyNote={props.keyNote}
      />
    </>
  );
}

/** Whether the camera's background is kept, and which colour is keyed out. */
export function CameraBackground(props: {
  colourKey: ColourKey | null;
  onChange: (key: ColourKey | null, how: ChangeHow) => void;
  /** Picks the wall's colour from the picture; absent where no live picture is there. */
  onPick?: { picking: boolean; begin: () => void };
  keyNote?: string;
}) {
  const { colourKey: key, onChange, onPick } = props;
  const colour = useId();
  return (
    <>
      <Pebbles
        name="Background"
        value={key ? 'away' : 'stays'}
        options={[
          { value: 'stays', label: 'Kept' },
          { value: 'away', label: 'Chroma key' },
        ]}
        onChange={(kind) => onChange(kind === 'away' ? firstKey(FIRST_COLOUR) : null, 'step')}
        note={key ? props.keyNote : undefined}
      />
      {key && (
        <div className="choice">
          <span className="row">
            <span className="lab" id={colour}>
              Key colour
            </span>
            <ColorPicker
              aria-labelledby={colour}
              value={key.colour}
              disabledAlpha
              onChangeComplete={(picked) =>
                onChange(firstKey(picked.toHexString().slice(0, 7).toLowerCase()), 'step')
              }
            />
            {onPick && (
              <Button type="text" aria-pressed={onPick.picking} onClick={onPick.begin}>
                {onPick.picking ? 'Click the background in the picture' : 'Pick from the picture'}
              </Button>
            )}
          </span>
          {isGreyWall(key.colour) && (
            <p className="small" role="status">
              This background has hardly any colour: greys in your clothes will become transparent too.
            </p>
          )}
          {SHARES.map(({ field, name, most }) => (
            <Share
              key={field}
              name={name}
              value={key[field]}
              most={most}
              least={field === 'tolerance' ? 0.01 : 0}
              onChange={(value, how) => onChange({ ...key, [field]: value }, how)}
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
  { field: 'spill', name: 'Spill suppression', most: 1 },
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
    <Flex gap={8} align="center">
      <span style={{ width: 130 }}>{props.name}</span>
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
    </Flex>
  );
}
