import type { Stage } from '@/core/lesson';

const WORDS: Partial<Record<Stage, string>> = {
  rehearse:
    'Record a few seconds to measure this machine, and change one setting at a time until it is fast enough.',
};

/** A stage that is not built yet. */
export function ComingStage({ stage }: { stage: Stage }) {
  return (
    <main>
      <p className="panel mute">{WORDS[stage]}</p>
    </main>
  );
}
