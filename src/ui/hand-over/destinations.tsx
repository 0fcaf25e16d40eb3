import { DESTINATIONS } from '@/core/destination';

/** The places a video can go to, in words. */
export function Destinations({ chosen, onChoose }: { chosen: string; onChoose: (id: string) => void }) {
  return (
    <fieldset className="destinations">
      <legend>Where it goes</legend>
      {DESTINATIONS.map(({ id, name, purpose }) => (
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
  );
}
