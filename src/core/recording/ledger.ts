import type { FrameLedger, TakeEnd } from './take';

/** The counts of a track whose source went and came back: one track to the user, several in turn to the recorder. */
export function addLedgers(a: FrameLedger, b: FrameLedger): FrameLedger {
  const sum = (key: 'arrived' | 'encoded' | 'repeated' | 'skipped' | 'dropped') => a[key] + b[key];
  const most = a.encoded >= b.encoded ? a : b;
  return {
    askedFps: b.askedFps,
    arrived: sum('arrived'),
    encoded: sum('encoded'),
    repeated: sum('repeated'),
    skipped: sum('skipped'),
    dropped: sum('dropped'),
    // Unknown and known together are unknown.
    droppedAtS: [...new Set([...(a.droppedAtS ?? []), ...(b.droppedAtS ?? [])])].sort((x, y) => x - y),
    lostBefore: a.lostBefore === null || b.lostBefore === null ? null : a.lostBefore + b.lostBefore,
    encodeP50Ms: most.encodeP50Ms,
    encodeP95Ms: Math.max(a.encodeP95Ms, b.encodeP95Ms),
  };
}

/** One account for each track, however many sources it had in turn, in their order. */
export function ledgersByTrack(
  parts: readonly { role: 'screen' | 'camera'; ledger: FrameLedger }[],
): TakeEnd['ledger'] {
  const sums: TakeEnd['ledger'] = {};
  for (const { role, ledger } of parts) {
    const known = sums[role];
    sums[role] = known ? addLedgers(known, ledger) : ledger;
  }
  return sums;
}
