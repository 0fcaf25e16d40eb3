import { bytesText } from '@/core/figures';
import { sizeText } from '@/core/sizes';
import { TRACK_NAMES, TrackKind } from '@/core/take';
import type { TakePage } from '@/core/take-page';
import { Figure } from '../shared/figure';

const COLOURS: Record<TrackKind, string> = {
  screen: 'river',
  camera: 'plum',
  voice: 'moss',
  'app-sound': 'heron',
  events: 'ink-2',
};

const CODECS: Record<string, string> = {
  avc1: 'H.264',
  vp09: 'VP9',
  av01: 'AV1',
  opus: 'Opus',
  'pcm-s16': 'PCM 16 bit',
  'pcm-s24': 'PCM 24 bit',
};
const codecName = (codec: string) => CODECS[codec.split('.')[0] ?? ''] ?? codec;

/** What was asked against what was achieved, from the ledger and from the files themselves. */
export function TakeFigures({ take }: { take: TakePage }) {
  const { screen, camera } = take.ledger;
  const picture = take.facts?.picture;
  const tracks = TrackKind.options.filter((track) =>
    take.segments.some((segment) => segment.track === track),
  );
  return (
    <>
      <dl className="figures">
        {screen && (
          <>
            <Figure
              name="Frames a second, asked"
              value={screen.askedFps.toFixed(screen.askedFps % 1 ? 2 : 0)}
            />
            {picture && (
              <Figure name="Achieved, while it moved" value={picture.medianFps.toFixed(1)} strong />
            )}
            <Figure name="Arrived" value={String(screen.arrived)} />
            <Figure name="Encoded" value={`${screen.encoded} + ${screen.repeated} repeated`} />
            <Figure name="Skipped, more than asked" value={String(screen.skipped)} />
            <Figure name="Lost, encoder behind" value={String(screen.dropped)} strong={screen.dropped > 0} />
            {screen.lostBefore !== null && (
              <Figure
                name="Lost before they came"
                value={String(screen.lostBefore)}
                strong={screen.lostBefore > 0}
              />
            )}
            <Figure
              name="Encoding, usual / slow"
              value={`${screen.encodeP50Ms.toFixed(0)} / ${screen.encodeP95Ms.toFixed(0)} ms`}
            />
          </>
        )}
        {camera && <Figure name="Camera, encoded / lost" value={`${camera.encoded} / ${camera.dropped}`} />}
        {picture && (
          <Figure name="Longest stillness" value={`${(picture.longestGapMs / 1000).toFixed(2)} s`} />
        )}
      </dl>
      <table className="track-figures">
        <caption className="sr-only">Tracks</caption>
        <tbody>
          {tracks.map((track) => {
            const own = take.segments.filter((segment) => segment.track === track);
            const configuration = own[0]?.configuration;
            return (
              <tr key={track}>
                <th scope="row" style={{ color: `var(--${COLOURS[track]})` }}>
                  {TRACK_NAMES[track]}
                </th>
                <td>
                  {configuration?.type === 'video' &&
                    `${sizeText(configuration)}, ${codecName(configuration.codec)}`}
                  {configuration?.type === 'audio' &&
                    `${codecName(configuration.codec)}, ${configuration.channels === 1 ? 'one channel' : 'two channels'}`}
                  {configuration?.type === 'events' && 'pointer and keys'}
                  {own.length > 1 && `, ${own.length} segments`}
                </td>
                <td className="fig">{bytesText(own.reduce((sum, { bytes }) => sum + bytes, 0))}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
