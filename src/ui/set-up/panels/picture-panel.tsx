'use client';

import type { Flow } from '@/core/flow';
import { framesPerSecond, rateText } from '@/core/rational';
import { isRealTime } from '@/core/rig';
import { speedText } from '@/core/rig-choices';
import { KNOWN_SIZES, sizeText } from '@/core/sizes';
import { Choice, NumberField, NumberInput, Reason } from '../choices';
import { useSetUp } from '../set-up-context';
import { Loupe } from './loupe';
import { ViewingSize } from './viewing-size';

const RATES = [
  [10, 1, 'documents'],
  [12, 1, ''],
  [15, 1, 'computer lessons'],
  [20, 1, ''],
  [24_000, 1001, ''],
  [24, 1, 'cinema'],
  [25, 1, ''],
  [30_000, 1001, 'editors'],
  [30, 1, 'the common standard'],
  [50, 1, ''],
  [60_000, 1001, ''],
  [60, 1, 'fast motion'],
] as const;

const SPEEDS = [
  [1, 1],
  [1, 2],
  [1, 5],
  [1, 10],
  [1, 30],
  [1, 60],
  [2, 1],
] as const;

const rateName = (num: number, den: number, what = '') =>
  `${rateText({ num, den })}${den === 1 ? '' : ` (${num}/${den})`}${what && `, ${what}`}`;

/** Size, frame rate and speed of the picture. */
export function PicturePanel() {
  const { rig, changePicture, flow } = useSetUp();
  const { box, frameRate, speed } = rig.picture;
  const known = KNOWN_SIZES.some((size) => size.width === box?.width && size.height === box.height);
  const rateKey = `${frameRate.num}/${frameRate.den}`;
  const knownRate = RATES.some(([num, den]) => `${num}/${den}` === rateKey);
  const scale = flow.screen?.picture.scale ?? 1;
  return (
    <div className="grid">
      <Choice
        name="Picture size"
        value={box ? `${box.width}x${box.height}` : 'as-captured'}
        options={[
          { value: 'as-captured', label: 'As captured, one to one' },
          ...KNOWN_SIZES.map((size) => ({
            value: `${size.width}x${size.height}`,
            label: `${sizeText(size)} (${size.name})`,
          })),
          ...(box && !known
            ? [{ value: `${box.width}x${box.height}`, label: `${sizeText(box)} (custom)` }]
            : []),
        ]}
        onChange={(value) => {
          const [width = 0, height = 0] = value.split('x').map(Number);
          changePicture({ box: width > 0 ? { width, height } : null });
        }}
        note={
          flow.screen &&
          (scale === 1
            ? 'One to one: as sharp as the source.'
            : `Scaled to ${Math.round(scale * 100)} %: scaling softens small text, not the encoder.`)
        }
        path="picture.box"
      />
      {box && (
        <Choice
          name="Fit"
          value={rig.picture.fit}
          options={[
            { value: 'within', label: 'Original aspect ratio' },
            { value: 'letterbox', label: 'Letterbox' },
            { value: 'fill', label: 'Fill, crop edges' },
            { value: 'stretch', label: 'Stretched' },
          ]}
          onChange={(fit) => changePicture({ fit: fit as typeof rig.picture.fit })}
          note={fitNote(flow)}
          path="picture.fit"
        />
      )}
      <div className="choice">
        <span className="lab">Custom size (even)</span>
        <span className="number">
          <SizeField part="width" />
          <span className="mute">×</span>
          <SizeField part="height" />
        </span>
      </div>
      <Choice
        name="Frame rate"
        value={rateKey}
        options={[
          ...RATES.map(([num, den, what]) => ({ value: `${num}/${den}`, label: rateName(num, den, what) })),
          ...(knownRate ? [] : [{ value: rateKey, label: rateName(frameRate.num, frameRate.den, 'own') }]),
        ]}
        onChange={(value) => {
          const [num = 30, den = 1] = value.split('/').map(Number);
          changePicture({ frameRate: { num, den } });
        }}
        path="picture.frameRate"
      />
      <NumberField
        name="Custom frame rate"
        value={Number(framesPerSecond(frameRate).toFixed(3))}
        min={1}
        max={60}
        step={0.001}
        unit="fps"
        onChange={(fps) => {
          const whole = Number.isInteger(fps);
          changePicture({ frameRate: whole ? { num: fps, den: 1 } : exactRate(fps) });
        }}
        note="Record and the take show the target and what was recorded."
      />
      <Choice
        name="Speed"
        value={`${speed.num}/${speed.den}`}
        options={[
          ...SPEEDS.map(([num, den]) => ({ value: `${num}/${den}`, label: speedText({ num, den }) })),
          ...(SPEEDS.some(([num, den]) => num === speed.num && den === speed.den)
            ? []
            : [{ value: `${speed.num}/${speed.den}`, label: speedText(speed) }]),
        ]}
        onChange={(value) => {
          const [num = 1, den = 1] = value.split('/').map(Number);
          changePicture({ speed: { num, den } });
        }}
        note={
          isRealTime(speed)
            ? undefined
            : `Captures a frame every ${Math.round((1000 * speed.den) / speed.num / framesPerSecond(frameRate))} ms. One hour becomes ${lengthText((3600 * speed.num) / speed.den)} of video, without sound.`
        }
      />
      <ViewingSize />
      <Loupe />
      {isRealTime(speed) && <Reason path="picture.speed" />}
    </div>
  );
}

function fitNote(flow: Flow): string | undefined {
  if (!flow.screen) return undefined;
  const { kept, crop, picture, bars, fit } = flow.screen;
  const lost = Math.round((1 - (crop.width * crop.height) / (kept.width * kept.height)) * 100);
  if (fit === 'fill') return lost > 0 ? `${lost} % is cropped at the edges.` : 'Nothing is cropped.';
  if (fit === 'letterbox')
    return bars ? 'Bars fill the rest; the picture is not upscaled.' : 'The aspect ratios match: no bars.';
  if (fit === 'stretch') return `Stretched to ${sizeText(picture)}.`;
  return 'The picture keeps its aspect ratio and is never upscaled.';
}

const lengthText = (seconds: number) =>
  seconds < 120 ? `${Math.round(seconds)} s` : `${Number((seconds / 60).toFixed(1))} min`;

/** Rates with a decimal are those of NTSC where they lie so near, and thousandths otherwise. */
function exactRate(fps: number): { num: number; den: number } {
  const ntsc = Math.round((fps * 1001) / 1000);
  if (Math.abs((ntsc * 1000) / 1001 - fps) < 0.005) return { num: ntsc * 1000, den: 1001 };
  return { num: Math.round(fps * 1000), den: 1000 };
}

function SizeField({ part }: { part: 'width' | 'height' }) {
  const { rig, changePicture, flow } = useSetUp();
  const now = rig.picture.box ?? flow.screen?.picture ?? { width: 1280, height: 720 };
  return (
    <NumberInput
      label={part === 'width' ? 'Width' : 'Height'}
      value={now[part]}
      min={16}
      max={7680}
      // An odd one is kept and found: what is wrong with it and what would do stands in the findings.
      onChange={(value) => changePicture({ box: { width: now.width, height: now.height, [part]: value } })}
    />
  );
}
