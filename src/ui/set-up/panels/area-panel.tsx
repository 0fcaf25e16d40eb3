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
  const { size: source } = useSourceStates(session).screen ?? {};
  const { aim } = rig.picture;
  if (isSoundOnly(rig)) return <p className="mute">Sound only: there is no picture.</p>;
  if (!source) return <p className="mute">Share a source first: then its capture area can be chosen.</p>;
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
      {aim !== 'whole' && <RegionChoices aim={aim} source={source} />}
    </div>
  );
}

type Within = { aim: Region; source: Size };

/** Place, size and shape of a region, and whether it follows the pointer. */
function RegionChoices({ aim, source }: Within) {
  const { changePicture } = useSetUp();
  const [aspect, setAspect] = useAspect();
  const set = (region: Region) => changePicture({ aim: region });
  return (
    <>
      <div className="choice">
        <span className="lab">X, Y</span>
        <RegionFields region={aim} parts={['x', 'y']} onChange={set} />
      </div>
      <div className="choice">
        <span className="lab">Width, height (even)</span>
        <RegionFields region={aim} parts={['width', 'height']} onChange={set} />
      </div>
      <RegionSize aim={aim} source={source} />
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
      <FollowChoices />
      <SavedRegions source={source} />
    </>
  );
}

/** The practice display or window that is captured, if one is, and the windows on it. */
function usePracticeView() {
  const { session } = useRoom();
  const { rig } = useSetUp();
  const arrangement = useArrangement(session);
  const { source } = rig.picture;
  const view = source.from === 'practice' && isView(source.id) ? source.id : null;
  return {
    view,
    windows: view ? windowsIn(view, arrangement) : [],
    pointerInView: view !== null && pointerShift(view, arrangement) !== null,
  };
}

/** Sizes by name, without bars, as large as a saved region, or a practice window. */
function RegionSize({ aim, source }: Within) {
  const { rig, changePicture } = useSetUp();
  const { windows } = usePracticeView();
  const { regions, box } = rig.picture;
  const set = (region: Region) => changePicture({ aim: region });
  const unbarred = box && fitted({ aim: 'whole', box, fit: 'fill' }, source).crop;
  const sizes = KNOWN_SIZES.filter(({ width, height }) => width <= source.width && height <= source.height);
  const options = [
    { value: 'own', label: sizeText(aim) },
    ...sizes.map(({ width, height, name }) => ({
      value: `${width}x${height}`,
      label: `${sizeText({ width, height })} (${name})`,
    })),
    ...(unbarred ? [{ value: 'unbarred', label: `Without bars: ${sizeText(unbarred)}` }] : []),
    ...regions.map(({ name, region }) => ({
      value: `named-${name}`,
      label: `As large as “${name}”: ${sizeText(region)}`,
    })),
    ...windows.map(({ program, box }) => ({
      value: `window-${program}`,
      label: `${PROGRAM_NAMES[program]}, its window (${sizeText(box)})`,
    })),
  ];
  const choose = (value: string) => {
    const window = windows.find(({ program }) => value === `window-${program}`);
    if (window) return set(window.box);
    if (value === 'unbarred' && unbarred) return set(unbarred);
    const named = regions.find((each) => value === `named-${each.name}`);
    if (named) return set(sizedRegion(aim, named.region, source));
    const [width = 0, height = 0] = value.split('x').map(Number);
    if (width > 0) set(sizedRegion(aim, { width, height }, source));
  };
  return <Choice name="Region size" value="own" options={options} onChange={choose} />;
}

/** Whether the region follows the pointer, where anything tells where that is. */
function FollowChoices() {
  const { session } = useRoom();
  const { rig } = useSetUp();
  const { tellsPointer } = useSourceStates(session).screen ?? {};
  const { view, pointerInView } = usePracticeView();
  const pointerKnown = tellsPointer === true || pointerInView;
  const { follow } = rig.picture;
  const unknown = view
    ? 'The pointer of the script is on the other practice display.'
    : 'Browsers do not report the pointer in a capture. It is known on the practice desk and in a tab of the studio.';
  return (
    <>
      <RigSegmented
        path="picture.follow"
        options={[
          { value: null, label: 'Fixed' },
          { value: follow ?? FOLLOW, label: 'Follows the pointer', disabled: !pointerKnown },
        ]}
        note={pointerKnown ? undefined : unknown}
      />
      {follow && <RigNumber path="picture.follow.speed" min={50} max={5000} unit="px/s" />}
      {follow && <RigNumber path="picture.follow.dead" per={100} min={0} max={90} unit="%" />}
    </>
  );
}

/** Regions by a name of their own, to come back to. */
function SavedRegions({ source }: { source: Size }) {
  const { rig, changePicture } = useSetUp();
  const [name, setName] = useState('');
  const { regions } = rig.picture;
  const save = () => {
    const own = name.trim();
    const { crop } = fitted({ ...rig.picture, box: null }, source);
    changePicture({ regions: [...regions.filter((each) => each.name !== own), { name: own, region: crop }] });
    setName('');
  };
  return (
    <div className="choice wide">
      <span className="lab">Saved regions</span>
      <span className="row">
        {regions.map((each) => (
          <Button key={each.name} type="text" onClick={() => changePicture({ aim: each.region })}>
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
        <Button type="text" disabled={name.trim() === ''} onClick={save}>
          Save
        </Button>
      </span>
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
