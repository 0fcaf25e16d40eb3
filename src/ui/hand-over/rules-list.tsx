import { Flex, Table } from 'antd';
import type { RuleResult } from '@/core/destination/rules';

/** Every rule of a destination with what was measured in the finished file. Those that are not met come first. */
export function RulesList({ rules }: { rules: readonly RuleResult[] }) {
  const sorted = [...rules].sort((a, b) => Number(a.met) - Number(b.met));
  return (
    <Table
      size="small"
      pagination={false}
      rowKey="rule"
      dataSource={sorted}
      columns={[
        {
          title: 'Rule',
          key: 'name',
          rowScope: 'row',
          render: (_, { name, met }) => (
            <>
              <RuleSign met={met} /> {name}
            </>
          ),
        },
        { title: 'Measured', dataIndex: 'measured', className: 'fig', render: withMinus },
        {
          title: 'Allowed',
          key: 'allowed',
          render: (_, { allowed, met, remedy }) => (
            <Flex vertical>
              {withMinus(allowed)}
              {!met && <b>{remedy}</b>}
            </Flex>
          ),
        },
      ]}
    />
  );
}

/** A hyphen before a figure is a minus. */
const withMinus = (text: string) => text.replace(/(^|\s)-(?=\d)/g, '$1−');

/** A round stone for a rule that is met, a square one for a broken one. */
function RuleSign({ met }: { met: boolean }) {
  return (
    <svg
      width="15"
      height="15"
      viewBox="0 0 16 16"
      fill="none"
      strokeWidth="2"
      role="img"
      aria-label={met ? 'met' : 'not met'}
    >
      {met ? (
        <>
          <circle cx="8" cy="8" r="7" fill="var(--river)" />
          <path d="M4.500 8.300l2.400 2.400 4.400-5" stroke="var(--on-river)" />
        </>
      ) : (
        <>
          <path d="M5 1h6l4 4v6l-4 4H5l-4-4V5Z" fill="var(--clay)" />
          <path d="M8 4.500v4.500M8 11.500v.2" stroke="var(--on-clay)" />
        </>
      )}
    </svg>
  );
}
