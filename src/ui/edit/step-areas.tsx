'use client';

import { DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Flex, Segmented } from 'antd';
import { clockText } from '@/core/base/figures';
import type { StepId } from '@/core/base/ids';
import type { Area, CoverKind } from '@/core/cut/area';
import { addCover, addZoom, changeCover, changeZoom, removeArea } from '@/core/cut/area-edits';
import { at, type Cut, placedSteps, type Step, shownAt } from '@/core/cut/cut';
import { Slider } from '../fields/slider';
import type { Areas, DrawnArea } from './use-areas';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';

type Props = { step: Step; keeper: CutKeeper; edits: Edits; areas: Areas };

/** What a step zooms to, and when. */
export function StepZooms(props: Props) {
  const { step, keeper, areas } = props;
  const drawn = areas.drawn?.what === 'zooms' ? step.zooms[areas.drawn.index] : undefined;
  return (
    <Flex vertical gap={6}>
      <AddArea {...props} what="zooms" label="Zoom in here" add={addZoom} />
      <AreaList {...props} what="zooms" label={({ area }) => `${zoomText(area)}`} />
      {drawn && areas.drawn && (
        <>
          <span className="small">Zoom time: {(drawn.easeUs / 1e6).toFixed(1)} s</span>
          <Slider
            name="Zoom time"
            min={0}
            max={3}
            step={0.1}
            value={drawn.easeUs / 1e6}
            text={`${(drawn.easeUs / 1e6).toFixed(1)} s`}
            colour="river"
            onChange={(seconds, how) =>
              keeper.change(
                changeZoom(keeper.cut, step.id, areas.drawn?.index ?? 0, {
                  easeUs: Math.round(seconds * 1e6),
                }),
                how,
              )
            }
          />
        </>
      )}
    </Flex>
  );
}

/** What a step hides, and when. */
export function StepCovers(props: Props) {
  const { step, keeper, areas } = props;
  const drawn = areas.drawn?.what === 'covers' ? step.covers[areas.drawn.index] : undefined;
  return (
    <Flex vertical gap={6}>
      <AddArea
        {...props}
        what="covers"
        label="Cover an area"
        add={(cut, atUs) => addCover(cut, atUs, 'blur')}
      />
      <AreaList {...props} what="covers" label={({ kind }) => (kind === 'blur' ? 'Blur' : 'Solid')} />
      {drawn && areas.drawn && (
        <>
          <Segmented
            block
            size="small"
            aria-label="Kind of cover"
            value={drawn.kind}
            options={[
              { value: 'blur', label: 'Blur' },
              { value: 'colour', label: 'Solid' },
            ]}
            onChange={(kind: CoverKind) =>
              keeper.change(changeCover(keeper.cut, step.id, areas.drawn?.index ?? 0, { kind }))
            }
          />
          <p className="small mute">It is not in the delivered file. The recording keeps it.</p>
        </>
      )}
    </Flex>
  );
}

/** How many times larger an area is seen. */
const zoomText = ({ width }: Area): string => `${(1 / width).toFixed(1)}×`;

/** Adds a zoom or a cover at the playhead, whose area can be drawn at once. */
function AddArea(
  props: Props & { what: DrawnArea['what']; label: string; add: (cut: Cut, atUs: number) => Cut },
) {
  const { step, keeper, edits, areas, what, label, add } = props;
  const make = (cut: Cut, atUs: number) => addedAndDrawn(add(cut, atUs), keeper.cut, step.id, what, areas);
  return (
    <Button size="small" icon={<PlusOutlined />} onClick={() => edits.edit(make)}>
      {label}
    </Button>
  );
}

/** Draws what was just added. */
function addedAndDrawn(next: Cut, before: Cut, id: StepId, what: DrawnArea['what'], areas: Areas): Cut {
  const known = new Set<unknown>(before.steps.find((step) => step.id === id)?.[what]);
  const index = next.steps.find((step) => step.id === id)?.[what].findIndex((one) => !known.has(one)) ?? -1;
  if (index >= 0) areas.draw({ step: id, what, index });
  return next;
}

type Listed = { fromUs: number; toUs: number; area: Area; kind?: CoverKind };

/** Zooms or covers of a step with their times; the one whose area is drawn can be moved in time. */
function AreaList(props: Props & { what: DrawnArea['what']; label: (one: Listed) => string }) {
  const { step, keeper, edits, areas, what, label } = props;
  const startUs = placedSteps(keeper.cut).find((placed) => placed.step.id === step.id)?.startUs ?? 0;
  const place = (timeUs: number) => clockText(startUs + shownAt(step, timeUs));
  const change = what === 'zooms' ? changeZoom : changeCover;
  const name = what === 'zooms' ? 'zoom' : 'cover';
  const hereUs = () => at(keeper.cut, edits.placeUs()).hereUs;
  const list: readonly Listed[] = step[what];
  return list.map((one, index) => {
    const isDrawn = areas.drawn?.what === what && areas.drawn.index === index;
    const times = `${place(one.fromUs)}–${place(one.toUs)}`;
    const move = (times: { fromUs: number } | { toUs: number }) =>
      keeper.change(change(keeper.cut, step.id, index, times));
    return (
      // biome-ignore lint/suspicious/noArrayIndexKey: two covers may hide the same moments
      <Flex key={index} vertical gap={4}>
        <Flex align="center" gap={4}>
          <Button
            size="small"
            className="grow"
            color={isDrawn ? 'primary' : 'default'}
            variant={isDrawn ? 'filled' : 'outlined'}
            aria-pressed={isDrawn}
            aria-label={`Draw the ${name}: ${label(one)}, ${times}`}
            onClick={() => areas.draw(isDrawn ? null : { step: step.id, what, index })}
          >
            {label(one)} <span className="fig">{times}</span>
          </Button>
          <Button
            size="small"
            type="text"
            icon={<DeleteOutlined />}
            aria-label={`Delete the ${name} from ${times}`}
            onClick={() => {
              areas.draw(null);
              edits.edit((cut) => removeArea(cut, step.id, what, index));
            }}
          />
        </Flex>
        {isDrawn && (
          <Flex gap={4}>
            <Button size="small" block onClick={() => move({ fromUs: hereUs() })}>
              Start here
            </Button>
            <Button size="small" block onClick={() => move({ toUs: hereUs() })}>
              End here
            </Button>
          </Flex>
        )}
      </Flex>
    );
  });
}

/** In a few words for the list of steps. */
export const effectsText = ({ speed, zooms, covers, pieces }: Step): string =>
  [
    speed !== 1 && `${speed}×`,
    zooms.length > 0 && 'zoom',
    covers.length > 0 && 'cover',
    pieces.some(({ heldUs }) => heldUs !== undefined) && 'hold',
  ]
    .filter(Boolean)
    .join(', ');
