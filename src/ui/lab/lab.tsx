'use client';

import { useEffect } from 'react';
import * as lab from './lab-bench';

export type LabWindow = { lab: typeof lab };

export function Lab() {
  useEffect(() => {
    (window as unknown as LabWindow).lab = lab;
  }, []);
  return null;
}
