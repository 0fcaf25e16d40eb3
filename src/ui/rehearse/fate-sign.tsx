import type { ReactNode } from 'react';
import type { ShownFate } from '@/core/rehearsal/frame-text';

const SIGNS: Record<ShownFate, ReactNode> = {
  'on-time': <path d="M4 6v9M9 3v12" stroke="var(--river)" strokeWidth="3" />,
  late: (
    <>
      <path d="M7 2v13" stroke="var(--amber)" strokeWidth="3" />
      <path d="M2 6h10" stroke="var(--amber)" strokeWidth="2" />
    </>
  ),
  unchanged: <path d="M4 11v4M9 11v4" stroke="var(--ink-3)" strokeWidth="3" />,
  skipped: <path d="M4 15h6" stroke="var(--ink-2)" strokeWidth="2" strokeDasharray="2 2" />,
  dropped: <path d="M3 2l7 7m0-7l-7 7M6.500 10v5" stroke="var(--clay)" strokeWidth="1.800" />,
  missed: <circle cx="6.500" cy="6" r="3.500" fill="none" stroke="var(--clay)" strokeWidth="1.800" />,
};

/** A frame's fate as the strip draws it: by shape as well as by colour. */
export const FateSign = ({ fate }: { fate: ShownFate }) => (
  <svg width="13" height="16" viewBox="0 0 13 16" aria-hidden="true">
    {SIGNS[fate]}
  </svg>
);
