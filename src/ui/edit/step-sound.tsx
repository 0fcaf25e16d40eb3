import { AudioMutedOutlined, SoundOutlined } from '@ant-design/icons';
import { Button, Flex } from 'antd';
import { useRef } from 'react';
import { gainText } from '@/core/base/decibels';
import type { Gains } from '@/core/cut/cut';
import { type ChangeHow, Slider } from '../fields/slider';

const LEAST_DB = -40;
const MOST_DB = 12;
const SILENT_DB = -60;
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
          <Flex justify="space-between" align="center">
            <span style={{ color: `var(--${colour})` }}>{name}</span>
            <span className="fig">{shown(gains[key])}</span>
            <Mute
              name={name}
              gainDb={gains[key]}
              onChange={(gainDb) => onChange({ ...gains, [key]: gainDb }, 'step')}
            />
          </Flex>
          <Slider
            name={name}
            min={LEAST_DB}
            max={MOST_DB}
            step={1}
            value={Math.max(LEAST_DB, gains[key])}
            text={shown(gains[key])}
            colour={colour}
            onChange={(value, how) =>
              onChange({ ...gains, [key]: value <= LEAST_DB ? SILENT_DB : value }, how)
            }
          />
        </div>
      ))}
    </fieldset>
  );
}

/** Silences a sound of the step, and brings it back as loud as it was. */
function Mute({
  name,
  gainDb,
  onChange,
}: {
  name: string;
  gainDb: number;
  onChange: (gainDb: number) => void;
}) {
  const before = useRef(0);
  const isSilent = gainDb <= LEAST_DB;
  return (
    <Button
      type="text"
      size="small"
      icon={isSilent ? <AudioMutedOutlined /> : <SoundOutlined />}
      aria-pressed={isSilent}
      aria-label={isSilent ? `Unmute ${name.toLowerCase()}` : `Mute ${name.toLowerCase()}`}
      onClick={() => {
        if (!isSilent) before.current = gainDb;
        onChange(isSilent ? before.current : SILENT_DB);
      }}
    />
  );
}

const shown = (db: number): string => (db <= LEAST_DB ? 'silent' : gainText(db));
