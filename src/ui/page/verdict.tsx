import { Flex } from 'antd';
import type { ReactNode } from 'react';

export type VerdictKind = 'good' | 'warn' | 'stop';

/** Shape as well as colour: a round pebble, a three-cornered stone, a square one. */
const SIGNS: Record<VerdictKind, ReactNode> = {
  good: (
    <>
      <circle cx="13" cy="13" r="12" fill="var(--river)" />
      <path d="M7.500 13.500l4 4 7-8" stroke="var(--on-river)" />
    </>
  ),
  warn: (
    <>
      <path
        d="M11 3.500q2-3 4 0l9.500 16.500q1.500 3.500-2 3.500H3.500q-3.500 0-2-3.500Z"
        fill="var(--amber)"
      />
      <path d="M13 9v6.500M13 19.500v.2" stroke="var(--amber-soft)" />
    </>
  ),
  stop: (
    <>
      <path d="M7.500 1.500h11l6 6v11l-6 6h-11l-6-6v-11Z" fill="var(--clay)" />
      <path d="M13 7v7.500M13 19v.2" stroke="var(--clay-soft)" />
    </>
  ),
};

/** The one sentence about the stage, with what can be done about it at its right. */
export function Verdict(props: {
  kind: VerdictKind;
  sentence: string;
  detail?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <section className={`verdict row ${props.kind}`} aria-label="Verdict">
      <svg
        width="26"
        height="26"
        viewBox="0 0 26 26"
        fill="none"
        strokeWidth="2.7"
        strokeLinecap="round"
        strokeLinejoin="round"
        aria-hidden="true"
      >
        {SIGNS[props.kind]}
      </svg>
      <p role={props.kind === 'stop' ? 'alert' : 'status'}>
        <b>{props.sentence}</b>
        {props.detail && <span className="small mute">{props.detail}</span>}
      </p>
      <Flex gap={10} align="center" wrap>
        {props.children}
      </Flex>
    </section>
  );
}
