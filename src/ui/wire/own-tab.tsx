'use client';

import { useEffect } from 'react';
import { announceTab } from '@/recorder/own-tab';

/** Lets a take that captures this tab know where the pointer is in it. */
export function OwnTab() {
  useEffect(announceTab, []);
  return null;
}
