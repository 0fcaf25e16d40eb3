'use client';

import { Button, Flex, Segmented } from 'antd';
import { useState } from 'react';
import { isUnchanged, type Look, type Looks, UNCHANGED } from '@/core/cut/looks';
import { type ChangeHow, Slider } from '../fields/slider';

const FACTORS: [key: keyof Look, name: string, least: number, most: number][] = [
  ['brightness', 'Brightness', 0.5, 1.5],
  ['contrast', 'Contrast', 0.5, 1.5],
  ['saturation', 'Saturation', 0, 2],
];

const percent = (value: number) => `${Math.round(value * 100)} %`;

/** Brightness and colours of a step's screen and camera. */
export function StepColours(props: {
  looks: Looks;
  withCamera: boolean;
  onChange: (looks: Looks, how: ChangeHow) => void;
}) {
  const { looks, withCamera, onChange } = props;
  const [chosen, choose] = useState<keyof Looks>('screen');
  const of = withCamera ? chosen : 'screen';
  const look = looks[of];
  return (
    <Flex vertical>
      {withCamera && (
        <Segmented
          block
          size="small"
          aria-label="Picture to adjust"
          value={of}
          options={[
            { value: 'screen', label: 'Screen' },
            { value: 'camera', label: 'Camera' },
          ]}
          onChange={choose}
        />
      )}
      {FACTORS.map(([key, name, min, max]) => (
        <div key={key} className="small">
          <Flex justify="space-between">
            <span>{name}</span>
            <span className="fig">{percent(look[key])}</span>
          </Flex>
          <Slider
            {...{ name, min, max, step: 0.01, value: look[key], text: percent(look[key]), colour: 'river' }}
            onChange={(value, how) => onChange({ ...looks, [of]: { ...look, [key]: value } }, how)}
          />
        </div>
      ))}
      <Button
        size="small"
        disabled={isUnchanged(look)}
        onClick={() => onChange({ ...looks, [of]: UNCHANGED }, 'step')}
      >
        Reset
      </Button>
    </Flex>
  );
}
