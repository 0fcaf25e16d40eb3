import { Table } from 'antd';
import { gainText } from '@/core/base/decibels';
import { bytesText } from '@/core/base/figures';
import { fpsText } from '@/core/base/rational';
import { sizeText } from '@/core/base/sizes';
import { recordedCodecName } from '@/core/codec/fourcc';
import { TRACK_NAMES, TrackKind } from '@/core/recording/take';
import type { TakePage } from '@/core/views/take-page';
import { Figures } from '../page/figures';

const COLOURS: Record<TrackKind, string> = {
  screen: 'river',
  camera: 'plum',
  voice: 'moss',
  'app-sound': 'heron',
  events: 'ink-2',
};

/** Target against recorded, from the ledger and from the files themselves. */
export function TakeFigures({ take }: { take: TakePage }) {
  const { screen, camera } = take.ledger;
  const picture = take.facts?.picture;
  const { voice, appSound } = take.rig;
  // What a reader may divide by the length beside it: every frame that is in the file.
  const written = screen ? screen.encoded + screen.repeated : 0;
  const tracks = TrackKind.options.filter((track) =>
    take.segments.some((segment) => segment.track === track),
  );
  return (
    <>
      <Figures
        of={[
          ...(screen
            ? [
                {
                  name: 'Target frame rate',
                  value: `${fpsText(screen.askedFps)} fps`,
                },
                picture && {
                  name: 'While moving',
                  value: `${picture.medianFps.toFixed(1)} fps`,
                  strong: true,
                },
                take.durationUs !== null && {
                  name: `Frames in ${(take.durationUs / 1e6).toFixed(1)} s`,
                  value: `${written}, ${((written * 1e6) / take.durationUs).toFixed(1)} fps on average`,
                },
                { name: 'Of these, repeated on a still screen', value: String(screen.repeated) },
                { name: 'Captured by the browser', value: String(screen.arrived) },
                { name: 'Skipped, above the target', value: String(screen.skipped) },
                {
                  name: 'Dropped by the encoder',
                  value: String(screen.dropped),
                  strong: screen.dropped > 0,
                },
                screen.lostBefore !== null && {
                  name: 'Dropped by the source',
                  value: String(screen.lostBefore),
                  strong: screen.lostBefore > 0,
                },
                {
                  name: 'Encode time, median / p95',
                  value: `${screen.encodeP50Ms.toFixed(0)} / ${screen.encodeP95Ms.toFixed(0)} ms`,
                },
              ]
            : []),
          voice && voice.gainDb !== 0 && { name: 'Voice', value: `gain ${gainText(voice.gainDb)}` },
          appSound &&
            appSound.gainDb !== 0 && { name: 'App sound', value: `gain ${gainText(appSound.gainDb)}` },
          camera && { name: 'Camera, encoded / dropped', value: `${camera.encoded} / ${camera.dropped}` },
          picture && {
            name: 'Longest still phase',
            value: `${(picture.longestGapMs / 1000).toFixed(2)} s`,
          },
        ]}
      />
      <Table
        aria-label="Tracks"
        size="small"
        pagination={false}
        showHeader={false}
        rowKey="track"
        dataSource={tracks.map((track) => ({ track, ...trackFigures(take, track) }))}
        columns={[
          {
            dataIndex: 'track',
            rowScope: 'row',
            render: (track: TrackKind) => (
              <b style={{ color: `var(--${COLOURS[track]})` }}>{TRACK_NAMES[track]}</b>
            ),
          },
          { dataIndex: 'format' },
          { dataIndex: 'bytes', align: 'right', className: 'fig', render: bytesText },
        ]}
      />
    </>
  );
}

/** What a track was recorded as, and its bytes. */
function trackFigures(take: TakePage, track: TrackKind): { format: string; bytes: number } {
  const own = take.segments.filter((segment) => segment.track === track);
  const configuration = own[0]?.configuration;
  const parts = [
    configuration?.type === 'video' && sizeText(configuration),
    configuration?.type === 'video' && recordedCodecName(configuration.codec),
    configuration?.type === 'audio' && recordedCodecName(configuration.codec),
    configuration?.type === 'audio' && (configuration.channels === 1 ? 'mono' : 'stereo'),
    configuration?.type === 'events' && 'pointer and keys',
    own.length > 1 && `${own.length} segments`,
  ];
  return { format: parts.filter(Boolean).join(', '), bytes: own.reduce((sum, { bytes }) => sum + bytes, 0) };
}
