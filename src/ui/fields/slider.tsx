import { Slider as AntSlider } from 'antd';
import { type CSSProperties, useRef } from 'react';

/** `step` begins a change that one undo takes back, `drag` continues it. */
export type ChangeHow = 'step' | 'drag';

/** The library's own properties for the part that is filled and for the thumb. */
const inColour = (colour: string) =>
  ({
    '--ant-slider-track-bg': colour,
    '--ant-slider-track-hover-bg': colour,
    '--ant-slider-handle-color': colour,
    '--ant-slider-handle-active-color': colour,
  }) as CSSProperties;

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
      style={inColour(`var(--${props.colour})`)}
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
