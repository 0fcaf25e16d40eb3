import { DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Flex } from 'antd';
import { clockText } from '@/core/base/figures';
import { at, placedSteps, type Step, shownAt } from '@/core/cut/cut';
import { mixOf } from '@/core/cut/mix';
import { type SoundKind, TRACK_NAMES } from '@/core/recording/take';
import type { Player } from '@/player/player';
import { NumberInput } from '../fields/choices';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';
import type { EnvelopeEdits } from './use-envelopes';

/** Tenths of a second: points of an envelope lie closer than a second. */
const placeText = (us: number): string => `${clockText(us)}.${Math.floor(us / 1e5) % 10}`;

/** The envelope of a step's sound as a list of times and decibels; the strip draws the same points. */
export function EnvelopePoints(props: {
  step: Step;
  sound: SoundKind;
  keeper: CutKeeper;
  edits: Edits;
  envelopes: EnvelopeEdits;
  player: Player | null;
}) {
  const { step, sound, keeper, edits, envelopes, player } = props;
  const name = TRACK_NAMES[sound];
  const startUs = placedSteps(keeper.cut).find((placed) => placed.step.id === step.id)?.startUs ?? 0;
  return (
    <Flex vertical gap={4}>
      {mixOf(step, sound).points.map(({ atUs, gainDb }, index) => {
        const us = startUs + shownAt(step, atUs);
        const place = placeText(us);
        const point = { step: step.id, sound, index };
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: two points may be at the same time
          <Flex key={index} align="center" justify="space-between" gap={4}>
            <Button type="link" size="small" style={{ padding: 0 }} onClick={() => player?.seek(us)}>
              <span className="fig">{place}</span>
            </Button>
            <NumberInput
              label={`${name} at ${place}`}
              unit="dB"
              isSmall
              value={gainDb}
              min={-60}
              max={12}
              onChange={(db) => envelopes.setGain(point, db)}
            />
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={`Delete the point of the ${name.toLowerCase()} at ${place}`}
              onClick={() => envelopes.remove(point)}
            />
          </Flex>
        );
      })}
      <Button
        size="small"
        icon={<PlusOutlined />}
        aria-label={`Add envelope point to the ${name.toLowerCase()}`}
        onClick={() => envelopes.add(step.id, sound, at(keeper.cut, edits.placeUs()).hereUs)}
      >
        Add envelope point
      </Button>
    </Flex>
  );
}
