import { Button, Flex, Radio } from 'antd';
import { fileName } from '@/core/base/names';
import { FileButton } from '../fields/file-button';
import { saveFile } from '../wire/save-file';
import { useTold } from '../wire/use-told';
import type { KnownDestinations } from './use-destinations';

/** The destinations a video can go to. Each can be exported as a file, changed, and imported. */
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
      <h2 id="destinations">Destination</h2>
      <Radio.Group
        className="options"
        aria-labelledby="destinations"
        value={chosen}
        onChange={({ target }) => onChoose(target.value)}
      >
        {known.all.map(({ id, name, purpose }) => (
          <Radio key={id} value={id} className={id === chosen ? 'on' : ''} aria-describedby={`purpose-${id}`}>
            <b>{name}</b>
            <span className="small mute" id={`purpose-${id}`}>
              {purpose}
            </span>
          </Radio>
        ))}
      </Radio.Group>
      <Flex wrap>
        <FileButton
          label="Import a destination"
          field="Destination file"
          accept="application/json,.json"
          type="text"
          onFile={add}
        />
        <Button type="text" onClick={save}>
          Export this destination
        </Button>
        {known.isOwn(chosen) && (
          <Button
            type="text"
            onClick={() => {
              known.remove(chosen);
              onChoose(known.all[0]?.id ?? '');
            }}
          >
            Remove
          </Button>
        )}
      </Flex>
    </div>
  );
}
