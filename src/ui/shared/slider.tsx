import { useRef } from 'react';

/** `step` begins a change that one undo takes back, `drag` carries it on. */
export type ChangeHow = 'step' | 'drag';

/** A range that tells whether it is still being drawn. */
export function Slider(props: {
  name: string;
  value: number;
  min: number;
  max: number;
  step: number;
  text: string;
  colour: string;
  onChange: (value: number, how: ChangeHow) => void;
}) {
  const dragging = useRef(false);
  const end = () => {
    dragging.current = false;
  };
  return (
    <input
      type="range"
      aria-label={props.name}
      min={props.min}
      max={props.max}
      step={props.step}
      value={props.value}
      aria-valuetext={props.text}
      style={{ accentColor: `var(--${props.colour})` }}
      onChange={({ target }) => {
        props.onChange(Number(target.value), dragging.current ? 'drag' : 'step');
        dragging.current = true;
      }}
      onPointerUp={end}
      onKeyUp={end}
    />
  );
}
