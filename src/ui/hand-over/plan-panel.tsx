import { Flex } from 'antd';
import { scaleLog } from 'd3-scale';
import { aboutBytesText, bytesText, clockText, levelText } from '@/core/base/figures';
import { rateText } from '@/core/base/rational';
import { sizeText } from '@/core/base/sizes';
import { CODEC_NAMES } from '@/core/codec/codecs';
import { type MadeCodec, madeCodec, makeableCodecs } from '@/core/deliver/quality';
import { CONTAINER_NAMES, type Destination, SOUND_CODEC_NAMES } from '@/core/destination/destination';
import { ScaleFilter } from '@/core/image/resample';
import type { ParcelPlan } from '@/core/views/parcel';
import { Pebbles } from '../fields/choices';
import { Figures } from '../page/figures';
import { FILTER_NAMES } from '../set-up/panels/loupe';

/** What a user may choose of the picture within what a destination takes. */
export type PictureSettings = { scaling?: ScaleFilter; codec?: MadeCodec };

/** A destination with the settings that it allows. */
export function withSettings(destination: Destination, { scaling, codec }: PictureSettings): Destination {
  const { video } = destination;
  const first = codec && video.codecs.includes(codec) ? [codec] : [];
  return {
    ...destination,
    video: {
      ...video,
      scaling: scaling ?? video.scaling,
      codecs: [...first, ...video.codecs.filter((each) => !first.some((one) => one === each))],
    },
  };
}

/** What will be made: its expected size among what is known, and what the place asks for. */
export function PlanPanel(props: {
  destination: Destination;
  plan: ParcelPlan | null;
  takeBytes: number;
  lengthUs: number;
  onSettings: (settings: PictureSettings) => void;
}) {
  const { destination, plan } = props;
  const codecs = makeableCodecs(destination);
  return (
    <section className="plan" aria-label="What will be made">
      <h2>What will be made</h2>
      <SizeLine {...props} />
      <p className="fig">{plan ? plan.exact : ' '}</p>
      <p className="small mute">
        {plan && plan.expected.from < plan.expected.to ? `Size: ${plan.expected.how}.` : ' '}
      </p>
      <Flex vertical gap={16} style={{ marginTop: 14 }}>
        {plan?.way === 'encode' && codecs.length > 1 && (
          <Pebbles
            name="Video codec"
            value={madeCodec(destination)}
            options={[...codecs].sort().map((value) => ({ value, label: CODEC_NAMES[value] }))}
            onChange={(codec) => props.onSettings({ codec })}
            note="AV1 makes the smaller file. H.264 also plays on older devices and encodes faster."
          />
        )}
        {plan?.scaled && (
          <Pebbles
            name="Downscaling filter"
            value={destination.video.scaling}
            options={ScaleFilter.options.map((value) => ({ value, label: FILTER_NAMES[value] }))}
            onChange={(scaling) => props.onSettings({ scaling })}
            note="Lanczos is the sharpest and the slowest."
          />
        )}
        <Figures
          title="Destination requirements"
          of={asked(destination).map(([name, value]) => ({ name, value }))}
        />
      </Flex>
    </section>
  );
}

/** The rules of a place in the order of a reader's interest; what is not asked for is not named. */
function asked({
  container,
  video,
  sound,
  maxBytes,
  maxDurationS,
  fastStart,
  tracks,
}: Destination): [string, string][] {
  const all: [string, string | null][] = [
    [
      'Container',
      tracks === 'separate' ? `${CONTAINER_NAMES[container]}, a file a track` : CONTAINER_NAMES[container],
    ],
    ['Video codec', video.codecs.map((codec) => CODEC_NAMES[codec]).join(' or ')],
    [
      'H.264 profile',
      video.h264 && video.codecs.includes('h264')
        ? `${video.h264.profiles.join(' or ')}, level ${(video.h264.maxLevel / 10).toFixed(1)}`
        : null,
    ],
    ['Picture size', video.box && `at most ${sizeText(video.box)}`],
    ['Aspect ratio', video.shape && `${video.shape.width}:${video.shape.height}`],
    [
      'Frame rate',
      [
        video.frameRate.constant && 'constant',
        video.frameRate.max && `at most ${rateText(video.frameRate.max)} fps`,
      ]
        .filter(Boolean)
        .join(', ') || null,
    ],
    [
      'Longest keyframe interval',
      video.keyframeEveryS === null ? null : `at most ${video.keyframeEveryS.toFixed(1)} s`,
    ],
    [
      'Sound',
      `${SOUND_CODEC_NAMES[sound.codec]}, ${sound.channels === 2 ? 'stereo or mono' : 'mono'}, ${sound.sampleRate / 1000} kHz`,
    ],
    [
      'Loudness',
      sound.loudness &&
        `${levelText(sound.loudness.lufs)} ± ${sound.loudness.toleranceLu} LUFS, peaks at most ${levelText(sound.loudness.truePeakDbtp)} dBTP`,
    ],
    ['Size', maxBytes === null ? null : `at most ${bytesText(maxBytes)}`],
    ['Length', maxDurationS === null ? null : `at most ${clockText(maxDurationS * 1e6)}`],
    ['Plays while it loads', fastStart ? 'index first' : null],
  ];
  return all.flatMap(([name, value]) => (value === null ? [] : [[name, value] as [string, string]]));
}

const WIDTH = 640;
const HEIGHT = 92;
const MIDDLE = 50;

/** Sizes on one logarithmic line: what was recorded, what is expected with its range, and what the place takes at most. */
function SizeLine({
  destination: { maxBytes },
  plan,
  takeBytes,
}: {
  destination: Destination;
  plan: ParcelPlan | null;
  takeBytes: number;
}) {
  const expected = plan?.expected;
  // As many digits as the sentence above it has.
  const written = expected && expected.from < expected.to ? aboutBytesText : bytesText;
  const known = [
    takeBytes,
    expected?.from,
    expected?.to,
    maxBytes && maxBytes < takeBytes * 50 ? maxBytes : undefined,
  ].filter((bytes): bytes is number => typeof bytes === 'number' && bytes > 0);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const x = scaleLog([Math.max(1, least / 2), most * 2], [0, WIDTH]);
  const label = expected
    ? `Expected ${written(expected.bytes)}, between ${written(expected.from)} and ${written(expected.to)}; recorded ${bytesText(takeBytes)}`
    : 'Sizes';
  const ceiling = maxBytes !== null && maxBytes < takeBytes * 50 ? maxBytes : null;
  return (
    <svg className="size-line" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={label}>
      <line x1="0" x2={WIDTH} y1={MIDDLE} y2={MIDDLE} stroke="var(--line)" strokeWidth="2" />
      {expected && (
        <>
          <rect
            x={x(expected.from) - 3}
            width={Math.max(6, x(expected.to) - x(expected.from) + 6)}
            y={MIDDLE - 9}
            height="18"
            rx="9"
            fill="var(--river-soft)"
          />
          <ellipse cx={x(expected.bytes)} cy={MIDDLE} rx="11" ry="9" fill="var(--river)" />
          <text
            x={Math.min(WIDTH - 40, Math.max(40, x(expected.bytes)))}
            y={MIDDLE + 32}
            textAnchor="middle"
            className="fig"
          >
            {written(expected.bytes)}
          </text>
        </>
      )}
      <path d={`M${x(takeBytes)} ${MIDDLE - 14}v28`} stroke="var(--ink-2)" strokeWidth="2.500" />
      <text
        x={Math.min(WIDTH - 64, Math.max(64, x(takeBytes)))}
        y={MIDDLE - 22}
        textAnchor="middle"
        className="small"
      >
        recorded {bytesText(takeBytes)}
      </text>
      {ceiling !== null && (
        <>
          <path
            d={`M${x(ceiling)} ${MIDDLE - 14}v28`}
            stroke="var(--amber)"
            strokeWidth="2.500"
            strokeDasharray="5 4"
          />
          <text
            x={Math.min(WIDTH - 50, Math.max(50, x(ceiling)))}
            y={MIDDLE + 32}
            textAnchor="middle"
            className="small amber"
          >
            at most {bytesText(ceiling)}
          </text>
        </>
      )}
    </svg>
  );
}
