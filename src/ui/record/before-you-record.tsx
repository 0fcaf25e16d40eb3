'use client';

import { useSelector } from '@xstate/react';
import { useEffect, useState } from 'react';
import { dbText } from '@/core/base/decibels';
import { useRoom } from '../lesson/lesson-room';

/** Louder than this is no noise of a quiet system. */
const HEARD_DB = -50;
const KEPT_MS = 20_000;

/** A reminder of sounds of other programs, with their present level. */
export function BeforeYouRecord() {
  const { rig, session } = useRoom();
  if (!rig.appSound || !session) return null;
  return <AppSoundHeard actor={session.actor} shared={rig.appSound.source.from === 'screen'} />;
}

function AppSoundHeard({
  actor,
  shared,
}: {
  actor: NonNullable<ReturnType<typeof useRoom>['session']>['actor'];
  shared: boolean;
}) {
  const db = useSelector(actor, ({ context }) => context.figures?.levels['app-sound']);
  const [loudest, setLoudest] = useState<number | null>(null);
  useEffect(() => {
    if (db !== undefined && db >= HEARD_DB) setLoudest((old) => Math.max(old ?? db, db));
  }, [db]);
  // What was heard a while ago has not just been heard.
  useEffect(() => {
    if (loudest === null) return;
    const timer = setTimeout(() => setLoudest(null), KEPT_MS);
    return () => clearTimeout(timer);
  }, [loudest]);
  return (
    <p className="small mute">
      Sounds of messages and of other programs would be recorded{shared ? ' with what is shared' : ''}:
      silence them first.{' '}
      {loudest !== null ? (
        <b>App sound has just been heard, up to {dbText(loudest)} dBFS.</b>
      ) : (
        'Now nothing is heard of them.'
      )}
    </p>
  );
}
