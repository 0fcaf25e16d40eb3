import { AudioMutedOutlined, CustomerServiceOutlined, SoundOutlined } from '@ant-design/icons';
import { Button, Flex, Tooltip } from 'antd';
import { useMemo, useRef } from 'react';
import { gainText } from '@/core/base/decibels';
import { gainsOf, type Step } from '@/core/cut/cut';
import { setGains } from '@/core/cut/edits';
import { MIX_KEYS } from '@/core/cut/mix';
import { stepLoudness } from '@/core/cut/step-loudness';
import { type SoundKind, TRACK_NAMES } from '@/core/recording/take';
import type { EditPage } from '@/core/views/edit-page';
import type { Player } from '@/player/player';
import { Slider } from '../fields/slider';
import { SOUND_TRACKS, soundColour, soundHue } from '../player/peaks';
import { usePlayed } from '../player/use-player';
import { EnvelopePoints } from './envelope-points';
import type { Recorded } from './strip-lanes';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';
import type { EnvelopeEdits } from './use-envelopes';

const LEAST_DB = -40;
const MOST_DB = 12;
const SILENT_DB = -60;

type Props = {
  step: Step;
  take: EditPage['takes'][number] | undefined;
  recorded: Recorded;
  keeper: CutKeeper;
  edits: Edits;
  envelopes: EnvelopeEdits;
  player: Player | null;
};

/** Each sound of a step: its gain over what was recorded, its loudness as it is heard, and how the gain moves. */
export function StepSound(props: Props) {
  const { take } = props;
  const solo = usePlayed(props.player, (state) => state.solo);
  return (
    <div className="stack small">
      {SOUND_TRACKS.filter((sound) => sound === 'voice' || take?.rig.appSound !== null).map((sound) => (
        // Each step has a gain of its own to go back to.
        <SoundOfStep key={`${props.step.id} ${sound}`} {...props} {...{ sound, solo }} />
      ))}
    </div>
  );
}

function SoundOfStep(props: Props & { sound: SoundKind; solo: SoundKind | null }) {
  const { step, take, recorded, keeper, edits, envelopes, player, sound, solo } = props;
  const { gains } = step;
  const { gain } = MIX_KEYS[sound];
  const name = TRACK_NAMES[sound];
  const change = (gainDb: number, how: 'step' | 'drag') =>
    keeper.change(setGains(keeper.cut, step.id, { ...gains, [gain]: gainDb }), how);
  const loudness = useMemo(
    () => stepLoudness(step, sound, (id) => recorded.peaks.get(id)?.loudness?.[sound]),
    [step, sound, recorded.peaks],
  );
  return (
    <fieldset>
      <legend style={{ color: soundColour(sound) }}>{name} gain</legend>
      <Flex vertical gap={10}>
        <Flex justify="space-between" align="center" gap={4}>
          <span className="fig">{shown(gains[gain])}</span>
          <span className="fig mute">{gains[gain] <= LEAST_DB ? '' : lufsText(loudness)}</span>
          <span>
            <Solo name={name} isOn={solo === sound} onChange={(on) => player?.setSolo(on ? sound : null)} />
            <Mute
              name={name}
              gainDb={gains[gain]}
              usualDb={(take ? gainsOf(take.rig) : gains)[gain]}
              onChange={(gainDb) => change(gainDb, 'step')}
            />
          </span>
        </Flex>
        <Slider
          name={`Gain of the ${name.toLowerCase()}`}
          min={LEAST_DB}
          max={MOST_DB}
          step={1}
          value={Math.max(LEAST_DB, gains[gain])}
          text={shown(gains[gain])}
          colour={soundHue(sound)}
          onChange={(value, how) => change(value <= LEAST_DB ? SILENT_DB : value, how)}
        />
        <EnvelopePoints {...{ step, keeper, edits, envelopes, player }} sound={sound} />
      </Flex>
    </fieldset>
  );
}

/** Lets one sound be heard alone, in the player only. */
function Solo({ name, isOn, onChange }: { name: string; isOn: boolean; onChange: (on: boolean) => void }) {
  const label = isOn ? 'Play all sounds' : `Solo ${name.toLowerCase()}`;
  return (
    <Tooltip placement="left" title={isOn ? label : `${label} (playback only)`}>
      <Button
        type={isOn ? 'primary' : 'text'}
        size="small"
        icon={<CustomerServiceOutlined />}
        aria-pressed={isOn}
        aria-label={label}
        onClick={() => onChange(!isOn)}
      />
    </Tooltip>
  );
}

/** Mutes a sound of the step; unmuting restores its gain. */
function Mute({
  name,
  gainDb,
  usualDb,
  onChange,
}: {
  name: string;
  gainDb: number;
  /** What the take was mixed with: for a sound that was muted before the page was opened. */
  usualDb: number;
  onChange: (gainDb: number) => void;
}) {
  const before = useRef(usualDb);
  const isSilent = gainDb <= LEAST_DB;
  const label = isSilent ? `Unmute ${name.toLowerCase()}` : `Mute ${name.toLowerCase()}`;
  return (
    <Tooltip placement="left" title={label}>
      <Button
        type="text"
        size="small"
        icon={isSilent ? <AudioMutedOutlined /> : <SoundOutlined />}
        aria-pressed={isSilent}
        aria-label={label}
        onClick={() => {
          if (!isSilent) before.current = gainDb;
          onChange(isSilent ? before.current : SILENT_DB);
        }}
      />
    </Tooltip>
  );
}

const shown = (db: number): string => (db <= LEAST_DB ? 'silent' : gainText(db));
const lufsText = (lufs: number | null): string =>
  lufs === null ? '' : `${lufs.toFixed(1).replace('-', '−')} LUFS`;
