'use client';

import { Input } from 'antd';
import { useEffect, useState } from 'react';
import { lengthText } from '@/core/base/length';
import { fileName, fillPattern, NAME_WORDS, nameMoment, unknownWords } from '@/core/base/names';
import { sizeText } from '@/core/base/sizes';
import { PURPOSES } from '@/core/rig/purposes';
import { LengthField } from '../../fields/length-field';
import { Reason } from '../../fields/reasons';
import { useRoom } from '../../lesson/lesson-room';
import { More } from '../more';
import { RigSegmented, RigSelect } from '../rig-field';
import { useSetUp } from '../set-up-context';
import { FilesBeside } from './files-beside';
import { AfterStop, FinalStore, RoomLeft } from './where-it-goes';

/** Seconds. */
const LENGTHS = [10, 60, 120, 300, 720, 1800, 3600, 7200];

/** Length, names, countdown and free space. */
export function FilePanel() {
  const { rig, changeRig } = useSetUp();
  return (
    <div className="grid">
      <RigSelect
        path="limits"
        options={[
          { value: { lengthS: null }, label: 'Never' },
          ...LENGTHS.map((lengthS) => ({ value: { lengthS }, label: lengthText(lengthS) })),
        ]}
        custom={
          <LengthField
            label="Custom length"
            value={rig.limits.lengthS}
            onChange={(lengthS) => changeRig((old) => ({ ...old, limits: { lengthS } }))}
          />
        }
        note="To the frame. A warning comes before the end."
      />
      <RigSegmented
        path="countdownS"
        options={[
          { value: 0, label: 'Off' },
          { value: 3, label: '3 s' },
          { value: 5, label: '5 s' },
        ]}
      />
      <NamePattern />
      <AfterStop />
      <RoomLeft />
      <More paths={['plannedLengthS', 'stores', 'formats']}>
        <RigSelect
          path="plannedLengthS"
          options={[
            { value: null, label: 'Not planned' },
            ...LENGTHS.map((value) => ({ value, label: lengthText(value) })),
          ]}
          custom={
            <LengthField
              label="Custom planned length"
              value={rig.plannedLengthS}
              onChange={(plannedLengthS) => changeRig((old) => ({ ...old, plannedLengthS }))}
            />
          }
          note="For estimates of size and free space only."
        />
        <FinalStore />
        <FilesBeside />
      </More>
    </div>
  );
}

function NamePattern() {
  const { lesson } = useRoom();
  const { rig, changeRig, flow } = useSetUp();
  const [text, setText] = useState(rig.names.pattern);
  useEffect(() => setText(rig.names.pattern), [rig.names.pattern]);
  const unknown = unknownWords(text);
  const wrong =
    text.trim() === ''
      ? 'Enter a file name.'
      : unknown.length > 0
        ? `{${unknown[0]}} is not a placeholder. Use ${NAME_WORDS.map((word) => `{${word}}`).join(', ')}.`
        : null;
  const example = fileName(
    fillPattern(text, {
      lesson: lesson.title,
      take: 'First take',
      rig: rig.purpose ? PURPOSES[rig.purpose.kind].name : '',
      size: flow.screen ? sizeText(flow.screen.picture).replaceAll(' ', '') : '',
      ...nameMoment(new Date()),
    }),
    'mp4',
  );
  return (
    <div className="choice">
      <label className="lab" htmlFor="name-pattern">
        File names
      </label>
      <Input
        id="name-pattern"
        status={wrong ? 'error' : undefined}
        value={text}
        maxLength={120}
        aria-invalid={wrong !== null}
        aria-describedby="name-example"
        onChange={({ target }) => {
          setText(target.value);
          if (target.value.trim() !== '' && unknownWords(target.value).length === 0)
            changeRig((old) => ({ ...old, names: { pattern: target.value } }));
        }}
      />
      <p className={wrong ? 'small amber' : 'small mute'} id="name-example" suppressHydrationWarning>
        {wrong ?? `Example: ${example}`}
      </p>
      <Reason path="names" />
    </div>
  );
}
