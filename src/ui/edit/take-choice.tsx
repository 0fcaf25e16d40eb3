import type { Cut } from '@/core/cut/cut';
import type { EditPage } from '@/core/cut/edit-page';
import { clockText } from '@/core/figures';

type Take = EditPage['takes'][number];

/** Which take the video is made of; another one begins anew, and undo brings the cut back. */
export function TakeChoice({
  takes,
  cut,
  onChoose,
}: {
  takes: readonly Take[];
  cut: Cut;
  onChoose: (take: Take) => void;
}) {
  if (takes.length < 2) return null;
  const used = cut.steps[0]?.pieces[0]?.take ?? '';
  return (
    <label className="take-choice small">
      <span className="mute">Made of</span>
      <select
        value={used}
        onChange={({ target }) => {
          const take = takes.find(({ id }) => id === target.value);
          if (take) onChoose(take);
        }}
      >
        {takes.map(({ id, title, durationUs }) => (
          <option key={id} value={id}>
            {title}, {clockText(durationUs ?? 0)}
          </option>
        ))}
      </select>
    </label>
  );
}
