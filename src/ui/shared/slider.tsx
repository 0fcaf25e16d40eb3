import { Slider as AntSlider } from 'antd';
import { type CSSProperties, useRef } from 'react';

/** `step` begins a change that one undo takes back, `drag` continues it. */
export type ChangeHow = 'step' | 'drag';

/** A range that tells whether it is still being dragged. */
export function Slider(props: {
  name: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** The value in words, with its unit. */
  text: string;
  colour: string;
  onChange: (value: number, how: ChangeHow) => void;
}) {
  const dragging = useRef(false);
  return (
    <AntSlider
      className="slider"
      style={{ '--own': `var(--${props.colour})` } as CSSProperties}
      ariaLabelForHandle={props.name}
      ariaValueTextFormatterForHandle={() => props.text}
      min={props.min}
      max={props.max}
      step={props.step}
      value={props.value}
      tooltip={{ formatter: () => props.text }}
      onChange={(value) => {
        props.onChange(value, dragging.current ? 'drag' : 'step');
        dragging.current = true;
      }}
      onChangeComplete={() => {
        dragging.current = false;
      }}
    />
  );
}
