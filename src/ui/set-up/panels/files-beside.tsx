'use client';

import { chooseCodec } from '@/core/encoder-speed';
import { CONTAINERS, Format, formatRefusal, formatSource } from '@/core/formats';
import { useSetUp } from '../set-up-context';
import { useSpeeds } from '../use-facts';

/** What is made of every take beside the plain video: each container with what it is good for, or why it cannot be had. */
export function FilesBeside() {
  const { rig, changeRig } = useSetUp();
  const source = formatSource(rig, chooseCodec(rig.picture, useSpeeds()).codec);
  const toggle = (format: Format, on: boolean) =>
    changeRig((old) => ({
      ...old,
      formats: Format.options.filter((each) => (each === format ? on : old.formats.includes(each))),
    }));
  return (
    <fieldset className="choice wide containers">
      <legend className="lab">Made of every take beside Matroska as recorded and the plain MP4</legend>
      <table>
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col">Plays</th>
            <th scope="col">Editors</th>
            <th scope="col">If writing is cut off, it holds</th>
          </tr>
        </thead>
        <tbody>
          {(['matroska', 'mp4'] as const).map((container) => (
            <Facts key={container} container={container}>
              {CONTAINERS[container].name}
            </Facts>
          ))}
          {Format.options.map((format) => {
            const refusal = formatRefusal(format, source);
            const on = rig.formats.includes(format);
            return refusal ? (
              <tr key={format} className="refused">
                <th scope="row">
                  <FormatBox
                    format={format}
                    refused={refusal !== null}
                    on={on}
                    onToggle={(next) => toggle(format, next)}
                  />
                </th>
                <td colSpan={3}>{refusal}</td>
              </tr>
            ) : (
              <Facts key={format} container={format}>
                <FormatBox
                  format={format}
                  refused={refusal !== null}
                  on={on}
                  onToggle={(next) => toggle(format, next)}
                />
              </Facts>
            );
          })}
        </tbody>
      </table>
    </fieldset>
  );
}

function FormatBox(props: {
  format: Format;
  refused: boolean;
  on: boolean;
  onToggle: (on: boolean) => void;
}) {
  return (
    <label>
      <input
        type="checkbox"
        checked={props.on}
        disabled={props.refused && !props.on}
        onChange={({ target }) => props.onToggle(target.checked)}
      />
      {CONTAINERS[props.format].name}
    </label>
  );
}

function Facts({ container, children }: { container: keyof typeof CONTAINERS; children: React.ReactNode }) {
  const { plays, editors, crash } = CONTAINERS[container];
  return (
    <tr>
      <th scope="row">{children}</th>
      <td>{plays}</td>
      <td>{editors}</td>
      <td>{crash}</td>
    </tr>
  );
}
