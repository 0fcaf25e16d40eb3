import { Flex } from 'antd';
import { gainText } from '@/core/base/decibels';
import type { Gains } from '@/core/cut/cut';
import { type ChangeHow, Slider } from '../fields/slider';

const LEAST_DB = -40;
const MOST_DB = 12;
const SOUNDS: [key: keyof Gains, name: string, colour: string][] = [
  ['voiceDb', 'Voice', 'moss'],
  ['appSoundDb', 'App sound', 'heron'],
];

/** The gain of each sound of a step over what was recorded. */
export function StepSound(props: {
  gains: Gains;
  withAppSound: boolean;
  onChange: (gains: Gains, how: ChangeHow) => void;
}) {
  const { gains, withAppSound, onChange } = props;
  return (
    <fieldset className="stack small">
      <legend>Gain</legend>
      {SOUNDS.filter(([key]) => key === 'voiceDb' || withAppSound).map(([key, name, colour]) => (
        <div key={key}>
          <Flex justify="space-between">
            <span style={{ color: `var(--${colour})` }}>{name}</span>
            <span className="fig">{shown(gains[key])}</span>
          </Flex>
          <Slider
            name={name}
            min={LEAST_DB}
            max={MOST_DB}
            step={1}
            value={Math.max(LEAST_DB, gains[key])}
            text={shown(gains[key])}
            colour={colour}
            onChange={(value, how) => onChange({ ...gains, [key]: value <= LEAST_DB ? -60 : value }, how)}
          />
        </div>
      ))}
    </fieldset>
  );
}

const shown = (db: number): string => (db <= LEAST_DB ? 'silent' : gainText(db));
