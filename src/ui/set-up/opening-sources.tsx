'use client';

import { useRoom } from '../lesson/lesson-room';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';
import { useFindings } from './use-facts';

/** A live stage before there is a session: its sources are being opened, or this browser cannot record. */
export function OpeningSources() {
  const { lesson } = useRoom();
  const [finding] = useFindings();
  const isStopped = finding?.weight === 'stop';
  return (
    <main>
      <Verdict
        kind={isStopped ? 'stop' : 'good'}
        sentence={isStopped ? finding.sentence : 'Opening the sources …'}
        detail={finding?.advice}
      >
        <ButtonLink href={`/lessons/${lesson.id}/set-up`}>Set up</ButtonLink>
      </Verdict>
    </main>
  );
}
