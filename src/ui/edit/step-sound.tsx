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
  /** As the take was mixed. */
  usual: Gains;
  withAppSound: boolean;
  onChange: (gains: Gains, how: ChangeHow) => void;
}) {
  const { gains, usual, withAppSound, onChange } = props;
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
              usualDb={usual[key]}
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

/** Mutes a sound of the step; unmuting restores its gain. */
function Mute({
  name,
  gainDb,
  usualDb,
  onChange,
}: {
  name: string;
  gainDb: number;
  /** What the take was mixed with: for a sound that was muted before the page was opened. */
  usualDb: number;
  onChange: (gainDb: number) => void;
}) {
  const before = useRef(usualDb);
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
