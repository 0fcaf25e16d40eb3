'use client';

import { createContext, useContext } from 'react';

/** Why values are what they are, by the path of the choice, while they are as proposed. */
export type Reasons = Readonly<Record<string, string>>;

/** Whoever proposed the values tells the fields why; without anybody there is no reason to show. */
export const ReasonsContext = createContext<Reasons>({});

/** Why a value is what it is, for as long as it is as proposed. */
export function Reason({ path }: { path: string }) {
  const reason = useContext(ReasonsContext)[path];
  return reason ? <p className="small mute reason">{reason}</p> : null;
}
