import type { Stage } from '@/core/lesson';

const WORDS: Partial<Record<Stage, string>> = {
  rehearse:
    'Here you will record a few seconds to see whether this machine keeps up, and change one thing at a time until it does.',
};

/** A stage that is not built yet. */
export function ComingStage({ stage }: { stage: Stage }) {
  return (
    <main>
      <p className="panel mute">{WORDS[stage]}</p>
    </main>
  );
}
