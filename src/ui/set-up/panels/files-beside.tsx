'use client';

import { Checkbox, Table } from 'antd';
import { CONTAINERS, Format, formatRefusal, formatSource } from '@/core/codec/formats';
import { Reason } from '../../fields/reasons';
import { useSetUp } from '../set-up-context';

/** Files made besides the plain video: each container with what it is good for, or why it cannot be made. */
export function FilesBeside() {
  const {
    rig,
    changeRig,
    codec: { codec },
  } = useSetUp();
  const source = formatSource(rig, codec);
  const toggle = (format: Format, on: boolean) =>
    changeRig((old) => ({
      ...old,
      formats: Format.options.filter((each) => (each === format ? on : old.formats.includes(each))),
    }));
  const rows: Row[] = [
    ...(['matroska', 'mp4'] as const).map((container) => ({ key: container, container, refusal: null })),
    ...Format.options.map((format) => ({
      ...{ key: format, container: format, format },
      refusal: formatRefusal(format, source),
    })),
  ];
  /** A refused format says why across all other columns. */
  const span = ({ refusal }: Row, columns: number) => ({ colSpan: refusal ? columns : 1 });
  return (
    <section className="choice wide containers" aria-labelledby="containers">
      <span className="lab" id="containers">
        Files made from every take, besides Matroska as recorded and the plain MP4
      </span>
      <Table
        size="small"
        pagination={false}
        dataSource={rows}
        rowClassName={({ refusal }) => (refusal ? 'refused' : '')}
        columns={[
          {
            title: 'File',
            key: 'file',
            rowScope: 'row',
            render: (_, { container, format, refusal }) =>
              format ? (
                <Checkbox
                  checked={rig.formats.includes(format)}
                  disabled={refusal !== null && !rig.formats.includes(format)}
                  onChange={({ target }) => toggle(format, target.checked)}
                >
                  {CONTAINERS[format].name}
                </Checkbox>
              ) : (
                CONTAINERS[container].name
              ),
          },
          {
            title: 'Plays in',
            key: 'plays',
            onCell: (row) => span(row, 3),
            render: (_, { container, refusal }) => refusal ?? CONTAINERS[container].plays,
          },
          {
            title: 'Editors',
            key: 'editors',
            onCell: (row) => span(row, 0),
            render: (_, { container }) => CONTAINERS[container].editors,
          },
          {
            title: 'After a crash',
            key: 'crash',
            onCell: (row) => span(row, 0),
            render: (_, { container }) => CONTAINERS[container].crash,
          },
        ]}
      />
      <Reason path="formats" />
    </section>
  );
}

type Row = {
  key: string;
  container: keyof typeof CONTAINERS;
  /** One that can be asked for. */
  format?: Format;
  refusal: string | null;
};
