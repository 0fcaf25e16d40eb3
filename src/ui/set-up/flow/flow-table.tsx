'use client';

import { aboutBitrateText, aboutBytesText, bitrateText, bytesText } from '@/core/base/figures';
import type { Amount } from '@/core/encoding/flow';
import { useSetUp } from '../set-up-context';

type Write = (value: number) => string;
const text = ({ value, range }: Amount, write: Write, about: Write): string =>
  range ? `about ${about(value)}, between ${about(range[0])} and ${about(range[1])}` : write(value);
const bitrate = (amount: Amount) => text(amount, bitrateText, aboutBitrateText);

/** The flow in rows, for whoever does not see the drawing. */
export function FlowTable() {
  const { flow } = useSetUp();
  const { screen, camera, voice, appSound } = flow;
  const rows: [
    name: string,
    source: Amount | null,
    aimed: Amount | null,
    picture: Amount | null,
    encoded: Amount,
  ][] = [];
  if (screen) rows.push(['Screen', screen.display, screen.aim, screen.picked, screen.encoded]);
  if (camera) rows.push(['Camera', camera.raw, null, null, camera.encoded]);
  if (voice) rows.push(['Voice', voice.raw, null, null, voice.encoded]);
  if (appSound) rows.push(['App sound', appSound.raw, null, null, appSound.encoded]);
  const megabytes = (value: number) => bytesText(value * 1e6);
  const aboutMegabytes = (value: number) => aboutBytesText(value * 1e6);
  return (
    <table className="sr-only">
      <caption>The flow from the sources to the disk</caption>
      <thead>
        <tr>
          <th scope="col">Track</th>
          <th scope="col">From its source</th>
          <th scope="col">Kept by aiming</th>
          <th scope="col">After size and frame rate</th>
          <th scope="col">Encoded</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, source, aimed, picture, encoded]) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            {[source, aimed, picture].map((amount, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the columns never change their order
              <td key={i}>{amount ? bitrate(amount) : '–'}</td>
            ))}
            <td>{bitrate(encoded)}</td>
          </tr>
        ))}
        <tr>
          <th scope="row">File</th>
          <td>–</td>
          <td>–</td>
          <td>–</td>
          <td>
            {bitrate(flow.file)}; {text(flow.megabytesAMinute, megabytes, aboutMegabytes)}/min
          </td>
        </tr>
      </tbody>
    </table>
  );
}
