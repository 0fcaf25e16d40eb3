'use client';

import { Button } from 'antd';
import { useRef, useState } from 'react';

const HOLD_MS = 2000;

/** Discards the take and arms again. Must be held, by pointer or key, so that nobody does it by mistake. */
export function StartOver({ disabled, onHeld }: { disabled: boolean; onHeld: () => void }) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const begin = () => {
    if (disabled || holding) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      setHolding(false);
      onHeld();
    }, HOLD_MS);
  };
  const end = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  return (
    <Button
      type="dashed"
      className={holding ? 'guard holding' : 'guard'}
      disabled={disabled}
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && begin()}
      onKeyUp={end}
      onBlur={end}
    >
      <b>Start over</b>
      <span>hold for 2 s</span>
    </Button>
  );
}
