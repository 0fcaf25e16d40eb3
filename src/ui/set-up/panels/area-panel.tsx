'use client';

import { Button, Flex, Input } from 'antd';
import { useState } from 'react';
import { evenDown, KNOWN_SIZES, type Size, sizeText } from '@/core/base/sizes';
import { LEAST_SIDE, type Region, sizedRegion } from '@/core/image/region';
import { fitted } from '@/core/layout/fit';
import { isSoundOnly } from '@/core/rig/picture-source';
import { PROGRAM_NAMES } from '@/practice/desk/arrangement';
import { isView, pointerShift, windowsIn } from '@/practice/desk/views';
import { Choice, NumberInput, Pebbles } from '../../fields/choices';
import { useArrangement, useRoom, useSourceStates } from '../../lesson/lesson-room';
import { RigNumber, RigSegmented } from '../rig-field';
import { useAspect, useSetUp } from '../set-up-context';

const ASPECTS = [
  ['free', null],
  ['16:9', 16 / 9],
  ['4:3', 4 / 3],
  ['1:1', 1],
  ['9:16', 9 / 16],
] as const;

/** Fast enough for a hand that reaches across the display, and still in the middle third. */
const FOLLOW = { speed: 1500, dead: 0.3 };

/** A third of the way in from each side: something to begin drawing with. */
const firstRegion = ({ width, height }: Size): Region => ({
  x: evenDown(width / 6),
  y: evenDown(height / 6),
  width: evenDown((width * 2) / 3),
  height: evenDown((height * 2) / 3),
});

/** All of the source or a region of it, drawn on the live picture or typed. */
export function AreaPanel() {
  const { session } = useRoom();
  const { rig, changePicture } = useSetUp();
  const [aspect, setAspect] = useAspect();
  const [name, setName] = useState('');
  const { size: source, tellsPointer } = useSourceStates(session).screen ?? {};
  const { aim, regions } = rig.picture;
  const arrangement = useArrangement(session);
  const view =
    rig.picture.source.from === 'practice' && isView(rig.picture.source.id) ? rig.picture.source.id : null;
  const windows = view ? windowsIn(view, arrangement) : [];
  if (isSoundOnly(rig)) return <p className="mute">Sound only: there is no picture.</p>;
  if (!source) return <p className="mute">Share a source first: then its capture area can be chosen.</p>;
  const pointerKnown = tellsPointer === true || (view !== null && pointerShift(view, arrangement) !== null);
  const set = (region: Region) => changePicture({ aim: region });
  const unbarred =
    rig.picture.box && fitted({ aim: 'whole', box: rig.picture.box, fit: 'fill' }, source).crop;
  const sizes = KNOWN_SIZES.filter(({ width, height }) => width <= source.width && height <= source.height);
  return (
    <div className="grid">
      <Pebbles
        name="Capture area"
        value={aim === 'whole' ? 'whole' : 'region'}
        options={[
          { value: 'whole', label: 'Full frame' },
          { value: 'region', label: 'A region' },
        ]}
        onChange={(kind) => changePicture({ aim: kind === 'whole' ? 'whole' : firstRegion(source) })}
        note={
          aim === 'whole'
            ? undefined
            : 'A region reduces the encoding work, not the capturing. Drag it on the picture or use the arrow keys: 2 px, with Shift 10 px; with Ctrl they resize it. Width and height stay even, as 4:2:0 needs: an odd value is rounded down at the right or lower edge.'
        }
      />
      {aim !== 'whole' && (
        <>
          <div className="choice">
            <span className="lab">X, Y</span>
            <RegionFields region={aim} parts={['x', 'y']} onChange={set} />
          </div>
          <div className="choice">
            <span className="lab">Width, height (even)</span>
            <RegionFields region={aim} parts={['width', 'height']} onChange={set} />
          </div>
          <Choice
            name="Region size"
            value="own"
            options={[
              { value: 'own', label: sizeText(aim) },
              ...sizes.map(({ width, height, name: known }) => ({
                value: `${width}x${height}`,
                label: `${sizeText({ width, height })} (${known})`,
              })),
              ...(unbarred ? [{ value: 'unbarred', label: `Without bars: ${sizeText(unbarred)}` }] : []),
              ...regions.map(({ name: named, region }) => ({
                value: `named-${named}`,
                label: `As large as “${named}”: ${sizeText(region)}`,
              })),
              ...windows.map(({ program, box }) => ({
                value: `window-${program}`,
                label: `${PROGRAM_NAMES[program]}, its window (${sizeText(box)})`,
              })),
            ]}
            onChange={(value) => {
              const window = windows.find(({ program }) => value === `window-${program}`);
              if (window) return set(window.box);
              if (value === 'unbarred' && unbarred) return set(unbarred);
              const named = regions.find((each) => value === `named-${each.name}`);
              if (named) return set(sizedRegion(aim, named.region, source));
              const [width = 0, height = 0] = value.split('x').map(Number);
              if (width > 0) set(sizedRegion(aim, { width, height }, source));
            }}
          />
          <Pebbles
            name="Aspect ratio"
            value={String(ASPECTS.find(([, ratio]) => ratio === aspect)?.[0] ?? 'free')}
            options={ASPECTS.map(([label]) => ({ value: label as string, label }))}
            onChange={(label) => {
              const ratio = ASPECTS.find(([each]) => each === label)?.[1] ?? null;
              setAspect(ratio);
              if (ratio !== null) {
                const width = Math.min(aim.width, aim.height * ratio);
                set(sizedRegion(aim, { width, height: width / ratio }, source));
              }
            }}
          />
          <RigSegmented
            path="picture.follow"
            options={[
              { value: null, label: 'Fixed' },
              { value: rig.picture.follow ?? FOLLOW, label: 'Follows the pointer', disabled: !pointerKnown },
            ]}
            note={
              pointerKnown
                ? undefined
                : view
                  ? 'The pointer of the script is on the other practice display.'
                  : 'Browsers do not report the pointer in a capture. It is known on the practice desk and in a tab of the studio.'
            }
          />
          {rig.picture.follow && <RigNumber path="picture.follow.speed" min={50} max={5000} unit="px/s" />}
          {rig.picture.follow && <RigNumber path="picture.follow.dead" per={100} min={0} max={90} unit="%" />}
          <div className="choice wide">
            <span className="lab">Saved regions</span>
            <span className="row">
              {regions.map((each) => (
                <Button key={each.name} type="text" onClick={() => set(each.region)}>
                  {each.name}
                </Button>
              ))}
              <Input
                className="region-name"
                aria-label="Name for this region"
                placeholder="Name of this region"
                value={name}
                maxLength={60}
                onChange={({ target }) => setName(target.value)}
              />
              <Button
                type="text"
                disabled={name.trim() === ''}
                onClick={() => {
                  const own = name.trim();
                  const { crop } = fitted({ ...rig.picture, box: null }, source);
                  const others = regions.filter((each) => each.name !== own);
                  changePicture({ regions: [...others, { name: own, region: crop }] });
                  setName('');
                }}
              >
                Save
              </Button>
            </span>
          </div>
        </>
      )}
    </div>
  );
}

const LABELS = {
  x: 'X',
  y: 'Y',
  width: 'Width of the region',
  height: 'Height of the region',
};

function RegionFields(props: {
  region: Region;
  parts: (keyof Region)[];
  onChange: (region: Region) => void;
}) {
  const { region, parts } = props;
  return (
    <Flex gap={8}>
      {parts.map((part) => (
        <NumberInput
          key={part}
          label={LABELS[part]}
          value={region[part]}
          min={part === 'x' || part === 'y' ? 0 : LEAST_SIDE}
          max={16_384}
          // An odd one, or one that lies outside, is kept and found: what is recorded instead stands in the findings.
          onChange={(value) => props.onChange({ ...region, [part]: value })}
        />
      ))}
    </Flex>
  );
}
