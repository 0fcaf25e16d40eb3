'use client';

import { bitrateText, bytesText } from '@/core/figures';
import type { Amount } from '@/core/flow';
import { useSetUp } from '../set-up-context';

const text = ({ value, range }: Amount, write: (value: number) => string): string =>
  range ? `about ${write(value)}, between ${write(range[0])} and ${write(range[1])}` : write(value);

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
              <td key={i}>{amount ? text(amount, bitrateText) : '–'}</td>
            ))}
            <td>{text(encoded, bitrateText)}</td>
          </tr>
        ))}
        <tr>
          <th scope="row">File</th>
          <td>–</td>
          <td>–</td>
          <td>–</td>
          <td>
            {text(flow.file, bitrateText)}; {text(flow.megabytesAMinute, megabytes)}/min
          </td>
        </tr>
      </tbody>
    </table>
  );
}
