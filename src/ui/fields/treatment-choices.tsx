'use client';

import { Checkbox, Flex } from 'antd';
import { useId } from 'react';
import { FIRST_TREATMENT, type Treatment } from '@/core/audio/treatment';
import { Slider } from './slider';

/** The stages of voice processing, each with its own switch: in Set up for what comes, on a take's page for what was recorded. */
export function TreatmentChoices(props: {
  treatment: Treatment;
  onChange: (part: Partial<Treatment>) => void;
}) {
  const { treatment, onChange } = props;
  const { highPassHz, denoise, gateDb, compressor } = treatment;
  return (
    <fieldset className="treatment stack">
      <legend className="lab">Voice processing</legend>
      <Part
        name="High-pass"
        does="Removes rumble: steps, wind, knocks."
        on={highPassHz !== null}
        onToggle={(on) => onChange({ highPassHz: on ? FIRST_TREATMENT.highPassHz : null })}
      >
        {highPassHz !== null && (
          <Amount
            name="High-pass frequency"
            value={highPassHz}
            range={[20, 300, 5]}
            text={`${highPassHz} Hz`}
            onChange={(hertz) => onChange({ highPassHz: hertz })}
          />
        )}
      </Part>
      <Part
        name="Noise reduction"
        does="Removes steady noise: a fan, a hum."
        on={denoise}
        onToggle={(on) => onChange({ denoise: on })}
      />
      <Part
        name="Gate"
        does="Mutes pauses between words."
        on={gateDb !== null}
        onToggle={(on) => onChange({ gateDb: on ? FIRST_TREATMENT.gateDb : null })}
      >
        {gateDb !== null && (
          <Amount
            name="Gate threshold"
            value={gateDb}
            range={[-80, -10, 1]}
            text={`−${-gateDb} dBFS`}
            onChange={(db) => onChange({ gateDb: db })}
          />
        )}
      </Part>
      <Part
        name="Compressor"
        does="Evens out loud and quiet words."
        on={compressor !== null}
        onToggle={(on) => onChange({ compressor: on ? FIRST_TREATMENT.compressor : null })}
      >
        {compressor && (
          <CompressorAmounts of={compressor} onChange={(changed) => onChange({ compressor: changed })} />
        )}
      </Part>
    </fieldset>
  );
}

type Compressor = NonNullable<Treatment['compressor']>;

function CompressorAmounts({ of, onChange }: { of: Compressor; onChange: (changed: Compressor) => void }) {
  return (
    <>
      <Amount
        name="Compressor ratio"
        value={of.ratio}
        range={[1, 10, 0.5]}
        text={`${of.ratio}:1`}
        onChange={(ratio) => onChange({ ...of, ratio })}
      />
      <Amount
        name="Compressor threshold"
        value={of.thresholdDb}
        range={[-60, 0, 1]}
        text={`${String(of.thresholdDb).replace('-', '−')} dBFS`}
        onChange={(thresholdDb) => onChange({ ...of, thresholdDb })}
      />
      <Amount
        name="Make-up gain"
        value={of.makeupDb}
        range={[0, 24, 1]}
        text={`+${of.makeupDb} dB`}
        onChange={(makeupDb) => onChange({ ...of, makeupDb })}
      />
    </>
  );
}

function Part(props: {
  name: string;
  does: string;
  on: boolean;
  onToggle: (on: boolean) => void;
  children?: React.ReactNode;
}) {
  const id = useId();
  return (
    <div className={props.on ? 'part stack on' : 'part stack'}>
      <Checkbox
        checked={props.on}
        aria-describedby={id}
        onChange={({ target }) => props.onToggle(target.checked)}
      >
        {props.name}
      </Checkbox>
      <span className="small mute" id={id}>
        {props.does}
      </span>
      {props.children}
    </div>
  );
}

function Amount(props: {
  name: string;
  value: number;
  range: [min: number, max: number, step: number];
  text: string;
  onChange: (value: number) => void;
}) {
  const [min, max, step] = props.range;
  return (
    <Flex gap={8} align="center">
      <span className="small" style={{ width: 150 }}>
        {props.name}
      </span>
      <Slider
        name={props.name}
        value={props.value}
        min={min}
        max={max}
        step={step}
        text={props.text}
        colour="moss"
        onChange={props.onChange}
      />
      <span className="fig small" style={{ minWidth: 64, textAlign: 'right' }}>
        {props.text}
      </span>
    </Flex>
  );
}
