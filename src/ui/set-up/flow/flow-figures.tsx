import { aboutBitrateText, aboutBytesText, bitrateText, bytesText } from '@/core/base/figures';
import { roomText } from '@/core/base/free-space';
import { lengthText } from '@/core/base/length';
import type { Amount } from '@/core/encoding/flow';
import { useRoomLeft } from '../free-space';
import { useSetUp } from '../set-up-context';
import { bandOf, columnAt, type FlowKind, type FlowShape } from './flow-shape';

/** An amount; an estimate says that it is one, and no more digits than it knows. */
const amountText = (
  { value, range }: Amount,
  text: (value: number) => string,
  about: (value: number) => string,
): string => (range ? `about ${about(value)}` : text(value));
const rangeText = ({ range }: Amount, about: (value: number) => string): string =>
  range ? `${about(range[0])} to ${about(range[1])}` : '';
const megabytes = (value: number) => bytesText(value * 1e6);
const aboutMegabytes = (value: number) => aboutBytesText(value * 1e6);

/** The figures that stand on the flow: each where its band has that width. The table says the same for those who do not see it. */
export function FlowFigures({ shape, width }: { shape: FlowShape; width: number }) {
  const { rig, flow } = useSetUp();
  const { screen, camera, voice, appSound } = flow;
  const at = (column: number) => columnAt(column, width);
  const tracks: [FlowKind, { encoded: Amount } | null][] = [
    ['screen', screen],
    ['camera', camera],
    ['voice', voice],
    ['app-sound', appSound],
  ];
  const first = bandOf(shape, 'screen');
  const top = first && first.rawY - 13;
  return (
    <div className="flow-figures" aria-hidden="true">
      {tracks.map(([kind, track]) => {
        const band = bandOf(shape, kind);
        return (
          track &&
          band && (
            <span
              key={kind}
              className={kind === 'screen' ? 'encoded fig' : 'encoded small'}
              style={{ left: at(3) + 36, top: band.encodedY + band.encodedHeight / 2 + 1 }}
            >
              {amountText(track.encoded, bitrateText, aboutBitrateText)}
            </span>
          )
        );
      })}
      {screen && first && (
        <>
          <b style={{ left: 16, top }}>{bitrateText(screen.display.value)}</b>
          {rig.picture.aim !== 'whole' && (
            <b style={{ left: at(1) + 32, top }}>{bitrateText(screen.aim.value)}</b>
          )}
          <b style={{ left: at(2) + 32, top }}>{bitrateText(screen.picked.value)}</b>
        </>
      )}
      <FileFigures left={at(4) + 26} top={shape.fileBottom + 8} width={at(5) - at(4) - 26} />
    </div>
  );
}

/** What all bands come to in the file, and how long there is room for it. */
function FileFigures(place: { left: number; top: number; width: number }) {
  const { rig, flow, measuredWhere } = useSetUp();
  const room = useRoomLeft(flow.file.value / 8);
  const { file, megabytesAMinute, megabytesPlanned, how } = flow;
  const known = how === 'sampled' ? 'estimated from the live source' : 'not measured yet';
  return (
    <span className="flow-file" style={place}>
      <b>{amountText(file, bitrateText, aboutBitrateText)}</b>
      <span className="small">
        {amountText(megabytesAMinute, megabytes, aboutMegabytes)}/min
        {megabytesPlanned &&
          `, ${amountText(megabytesPlanned, megabytes, aboutMegabytes)} for the ${lengthText(rig.plannedLengthS ?? 0)} planned`}
      </span>
      <span className="small mute">
        {how === 'measured'
          ? `measured ${measuredWhere}`
          : `${known}: ${rangeText(megabytesAMinute, aboutMegabytes)}/min`}
      </span>
      {room.browser && (
        <span className="small mute">
          room for about {roomText(room.browser)} in this browser
          {room.server && `, ${roomText(room.server)} on the studio’s disk`}
        </span>
      )}
    </span>
  );
}
