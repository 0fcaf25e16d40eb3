import { App, Select } from 'antd';
import { clockText } from '@/core/base/figures';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import type { EditPage } from '@/core/views/edit-page';

type Take = EditPage['takes'][number];

/** Which take the video is made of. Another one replaces the cut, so it is asked first; the cut before stays among the versions. */
export function TakeChoice({
  takes: all,
  cut,
  onChoose,
}: {
  takes: readonly Take[];
  cut: Cut;
  onChoose: (take: Take) => void;
}) {
  const { modal } = App.useApp();
  const used = cut.steps[0]?.pieces[0]?.take;
  const takes = all.filter(({ id, own }) => own || id === used);
  if (takes.length < 2) return null;
  const choose = (id: string) => {
    const take = takes.find((each) => each.id === id);
    if (!take || take.id === used) return;
    const count = cut.steps.length;
    modal.confirm({
      title: `Replace the cut with the whole of ${take.title}?`,
      content: `The present cut (${count} ${count === 1 ? 'step' : 'steps'}, ${clockText(cutLengthUs(cut))}) stays under Versions and can be restored at any time.`,
      okText: 'Replace the cut',
      onOk: () => onChoose(take),
    });
  };
  return (
    <div className="stack small">
      <span className="mute" id="take-choice">
        Take
      </span>
      <Select
        aria-labelledby="take-choice"
        value={used}
        onChange={choose}
        options={takes.map(({ id, title, durationUs }) => ({
          value: id,
          label: `${title}, ${clockText(durationUs ?? 0)}`,
        }))}
      />
    </div>
  );
}
