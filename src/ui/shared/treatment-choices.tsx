'use client';

import { useId } from 'react';
import { FIRST_TREATMENT, type Treatment } from '@/core/treatment/treatment';
import { Slider } from './slider';

/** The parts of a voice's treatment, each turned on and off by itself: in Set up for what comes, on a take's page for what was recorded. */
export function TreatmentChoices(props: {
  treatment: Treatment;
  onChange: (part: Partial<Treatment>) => void;
}) {
  const { treatment, onChange } = props;
  const { highPassHz, denoise, gateDb, compressor } = treatment;
  return (
    <fieldset className="treatment">
      <legend className="lab">What is done to the voice</legend>
      <Part
        name="High-pass"
        does="Steps, wind and knocks lie under the voice."
        on={highPassHz !== null}
        onToggle={(on) => onChange({ highPassHz: on ? FIRST_TREATMENT.highPassHz : null })}
      >
        {highPassHz !== null && (
          <Amount
            name="Corner of the high-pass"
            value={highPassHz}
            range={[20, 300, 5]}
            text={`${highPassHz} Hz`}
            onChange={(hertz) => onChange({ highPassHz: hertz })}
          />
        )}
      </Part>
      <Part
        name="Take out noise"
        does="A fan or a hum, steady under the voice."
        on={denoise}
        onToggle={(on) => onChange({ denoise: on })}
      />
      <Part
        name="Gate"
        does="Closes while nobody speaks."
        on={gateDb !== null}
        onToggle={(on) => onChange({ gateDb: on ? FIRST_TREATMENT.gateDb : null })}
      >
        {gateDb !== null && (
          <Amount
            name="Where the gate opens"
            value={gateDb}
            range={[-80, -10, 1]}
            text={`−${-gateDb} dB`}
            onChange={(db) => onChange({ gateDb: db })}
          />
        )}
      </Part>
      <Part
        name="Compressor"
        does="Brings loud and quiet words nearer."
        on={compressor !== null}
        onToggle={(on) => onChange({ compressor: on ? FIRST_TREATMENT.compressor : null })}
      >
        {compressor && (
          <>
            <Amount
              name="Ratio of the compressor"
              value={compressor.ratio}
              range={[1, 10, 0.5]}
              text={`${compressor.ratio} : 1`}
              onChange={(ratio) => onChange({ compressor: { ...compressor, ratio } })}
            />
            <Amount
              name="Where the compressor begins"
              value={compressor.thresholdDb}
              range={[-60, 0, 1]}
              text={`from ${String(compressor.thresholdDb).replace('-', '−')} dB`}
              onChange={(thresholdDb) => onChange({ compressor: { ...compressor, thresholdDb } })}
            />
            <Amount
              name="Gain after the compressor"
              value={compressor.makeupDb}
              range={[0, 24, 1]}
              text={`+ ${compressor.makeupDb} dB`}
              onChange={(makeupDb) => onChange({ compressor: { ...compressor, makeupDb } })}
            />
          </>
        )}
      </Part>
    </fieldset>
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
    <div className={props.on ? 'part on' : 'part'}>
      <label>
        <input
          type="checkbox"
          checked={props.on}
          aria-describedby={id}
          onChange={({ target }) => props.onToggle(target.checked)}
        />
        {props.name}
      </label>
      <span className="small mute" id={id}>
        {props.does}
      </span>
      {props.children && <div className="amounts">{props.children}</div>}
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
    <div className="amount">
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
      <span className="fig small">{props.text}</span>
    </div>
  );
}
