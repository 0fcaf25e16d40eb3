import { fileName } from '@/core/names';
import { FileButton } from '../shared/file-button';
import { saveFile } from '../shared/save-file';
import { useTold } from '../shared/use-told';
import type { KnownDestinations } from './use-destinations';

/** The places a video can go to, in words. Each is a file that can be saved, changed and added. */
export function Destinations(props: {
  known: KnownDestinations;
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const { known, chosen, onChoose } = props;
  const told = useTold();
  const destination = known.all.find(({ id }) => id === chosen);
  const add = (file: File) => told(known.add(file).then(({ id }) => onChoose(id)));
  const save = () => {
    if (!destination) return;
    saveFile(fileName(destination.name, 'json'), JSON.stringify(destination, null, 2));
  };
  return (
    <div>
      <fieldset className="destinations">
        <legend>Where it goes</legend>
        {known.all.map(({ id, name, purpose }) => (
          <label key={id} className={id === chosen ? 'on' : ''}>
            <input
              type="radio"
              name="destination"
              checked={id === chosen}
              onChange={() => onChoose(id)}
              aria-describedby={`purpose-${id}`}
            />
            <span>
              <b>{name}</b>
              <span className="small mute" id={`purpose-${id}`}>
                {purpose}
              </span>
            </span>
          </label>
        ))}
      </fieldset>
      <div className="row destination-files">
        <FileButton
          label="Add from a file"
          field="File of a place"
          accept="application/json,.json"
          className="act quiet"
          onFile={add}
        />
        <button type="button" className="act quiet" onClick={save}>
          Save as a file
        </button>
        {known.isOwn(chosen) && (
          <button
            type="button"
            className="act quiet"
            onClick={() => {
              known.remove(chosen);
              onChoose(known.all[0]?.id ?? '');
            }}
          >
            Forget it
          </button>
        )}
      </div>
    </div>
  );
}
