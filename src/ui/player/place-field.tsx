'use client';

import { Input } from 'antd';
import { useState } from 'react';
import { type FrameRate, rateText } from '@/core/base/rational';
import { readTimecode, timecodeText } from '@/core/base/timecode';

/** The place in a film as a time code, which can be copied, and typed to go there; Escape discards what was typed. */
export function PlaceField(props: {
  positionUs: number;
  durationUs: number;
  rate: FrameRate;
  onSeek: (us: number) => void;
}) {
  const { positionUs, durationUs, rate, onSeek } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const shown = timecodeText(positionUs, rate);
  const us = readTimecode(draft ?? shown, rate);
  const wrong = draft !== null && (us === null || us > durationUs);
  const go = () => {
    if (us !== null && us <= durationUs) onSeek(us);
    setDraft(null);
  };
  return (
    <Input
      className="fig place"
      variant={draft === null ? 'borderless' : 'outlined'}
      status={wrong ? 'error' : undefined}
      aria-label="Time code"
      title={`Minutes, seconds and frames at ${rateText(rate)} fps; type one to go there`}
      value={draft ?? shown}
      onFocus={({ target }) => target.select()}
      onChange={({ target }) => setDraft(target.value)}
      onPressEnter={({ currentTarget }) => {
        go();
        currentTarget.blur();
      }}
      onKeyDown={({ key, currentTarget }) => {
        if (key !== 'Escape') return;
        setDraft(null);
        currentTarget.blur();
      }}
      onBlur={() => setDraft(null)}
    />
  );
}
