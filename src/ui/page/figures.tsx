import { Descriptions } from 'antd';

/** A figure by its name. A strong one is what a reader looks for first. */
export type Figure = { name: string; value: string; strong?: boolean };

/** Figures below each other, each value at the end of its line; what is false or null is left out. */
export function Figures(props: { title?: string; of: (Figure | false | null | undefined)[] }) {
  const known = props.of.filter((each): each is Figure => Boolean(each));
  return (
    <Descriptions
      className="figures"
      title={props.title}
      size="small"
      colon={false}
      column={1}
      items={known.map(({ name, value, strong }) => ({
        key: name,
        label: name,
        children: value,
        className: strong ? 'fig' : undefined,
      }))}
    />
  );
}
