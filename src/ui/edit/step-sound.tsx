import { useRef } from 'react';
import type { Gains } from '@/core/cut/cut';

const LEAST_DB = -40;
const MOST_DB = 12;
const SOUNDS: [key: keyof Gains, name: string, colour: string][] = [
  ['voiceDb', 'Voice', 'moss'],
  ['appSoundDb', 'App sound', 'heron'],
];

/** How loud each sound of a step is beside how it was recorded. */
export function StepSound(props: {
  gains: Gains;
  withAppSound: boolean;
  /** `step` begins a change that one undo takes back, `drag` carries it on. */
  onChange: (gains: Gains, how: 'step' | 'drag') => void;
}) {
  const { gains, withAppSound, onChange } = props;
  const dragging = useRef(false);
  return (
    <fieldset className="step-sound">
      <legend>How loud</legend>
      {SOUNDS.filter(([key]) => key === 'voiceDb' || withAppSound).map(([key, name, colour]) => (
        <label key={key}>
          <span style={{ color: `var(--${colour})` }}>{name}</span>
          <span className="fig">{gainText(gains[key])}</span>
          <input
            type="range"
            min={LEAST_DB}
            max={MOST_DB}
            step="1"
            value={Math.max(LEAST_DB, gains[key])}
            aria-valuetext={gainText(gains[key])}
            style={{ accentColor: `var(--${colour})` }}
            onChange={({ target }) => {
              const value = Number(target.value);
              onChange(
                { ...gains, [key]: value <= LEAST_DB ? -60 : value },
                dragging.current ? 'drag' : 'step',
              );
              dragging.current = true;
            }}
            onPointerUp={() => {
              dragging.current = false;
            }}
            onKeyUp={() => {
              dragging.current = false;
            }}
          />
        </label>
      ))}
    </fieldset>
  );
}

const gainText = (db: number): string =>
  db <= LEAST_DB ? 'silent' : `${db > 0 ? '+' : db < 0 ? '−' : ''}${Math.abs(Math.round(db))} dB`;
