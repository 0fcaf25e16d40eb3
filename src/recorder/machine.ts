import type { TakeHead } from '@/core/recording/take';

/** Browser and machine as they are kept with a take: what figures are later compared by. */
export function machineFacts(): Pick<TakeHead, 'browser' | 'machine'> {
  const memory = (navigator as { deviceMemory?: number }).deviceMemory;
  return {
    browser: navigator.userAgent.slice(0, 300),
    machine: { cores: navigator.hardwareConcurrency ?? 0, memoryGb: memory ?? null },
  };
}
