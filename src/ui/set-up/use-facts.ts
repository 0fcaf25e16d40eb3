'use client';

import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { agoText } from '@/core/base/ago';
import type { Size } from '@/core/base/sizes';
import { type EncoderKnowledge, NOTHING_MEASURED } from '@/core/encoding/encoding-plan';
import { type Facts, preflight } from '@/core/findings/preflight';
import { recordsAlike } from '@/core/findings/rehearsed';
import type { Activity } from '@/core/layout/activity';
import { fitted } from '@/core/layout/fit';
import { isView, outsideOf } from '@/practice/desk/views';
import { followActivity } from '@/recorder/activity/activity';
import { measuredAt, measurings } from '@/recorder/headroom';
import { recordingProblem } from '@/recorder/sources';
import { useArrangement, useRoom, useSourceStates } from '../lesson/lesson-room';
import { useRehearsals } from '../lesson/use-rehearsals';
import { useMostBytesPerSecond, useRoomLeft } from './free-space';
import { useFinalStore } from './stores';
import { useHeld } from './use-held';

let cached: { key: string; known: EncoderKnowledge } | null = null;
measurings.subscribe(() => {
  cached = null;
});

/** The same answer gives the same object, as a store's snapshot must. */
function knownAt(size: Size): EncoderKnowledge {
  const key = `${size.width}x${size.height}`;
  if (cached?.key !== key) cached = { key, known: measuredAt(size) };
  return cached.known;
}

/** The picture that the rig makes of what is aimed at; undefined while nothing is. */
export function usePicture(): (Size & { scale: number }) | undefined {
  const { rig, session } = useRoom();
  const source = useSourceStates(session).screen?.size;
  const { aim, box, fit } = rig.picture;
  return useMemo(() => {
    if (!source) return undefined;
    const { size, scale } = fitted({ aim, box, fit }, source);
    return { ...size, scale };
  }, [source, aim, box, fit]);
}

/** What was measured of this browser's encoders at the picture's size. */
export function useEncoders(): EncoderKnowledge {
  const picture = usePicture();
  return useSyncExternalStore(
    measurings.subscribe,
    () => (picture ? knownAt(picture) : NOTHING_MEASURED),
    () => NOTHING_MEASURED,
  );
}

/** Whether the browser is going to refuse without asking; null while it is not known. */
function usePermissions(): Facts['permissions'] {
  const [permissions, setPermissions] = useState<Facts['permissions']>({ camera: null, microphone: null });
  useEffect(() => {
    const ends: (() => void)[] = [];
    for (const name of ['camera', 'microphone'] as const)
      navigator.permissions?.query({ name: name as PermissionName }).then(
        (status) => {
          const look = () =>
            setPermissions((old) => ({ ...old, [name]: status.state === 'denied' ? false : null }));
          look();
          status.addEventListener('change', look);
          ends.push(() => status.removeEventListener('change', look));
        },
        // A browser that does not know the name refuses nothing beforehand.
        () => undefined,
      );
    return () => {
      for (const end of ends) end();
    };
  }, []);
  return permissions;
}

/** Where the picture that is captured changes; null until something was seen of it. */
export function useActivity(): Activity | null {
  const { session } = useRoom();
  const [activity, setActivity] = useState<Activity | null>(null);
  useEffect(() => (session ? followActivity(session, setActivity) : undefined), [session]);
  return activity;
}

/** What a practice window opens outside of itself. */
function useOutside(): Facts['outside'] {
  const { rig, session } = useRoom();
  const arrangement = useArrangement(session);
  const { source } = rig.picture;
  const view = source.from === 'practice' && isView(source.id) ? source.id : null;
  return useMemo(() => (view ? outsideOf(view, arrangement) : null), [view, arrangement]);
}

/** How often "3 minutes ago" is updated. */
const AGO_MS = 30_000;

/** The newest rehearsal of the lesson with its present rig, and how long ago it was. */
function useNewestRehearsal(): Facts['rehearsal'] {
  const { rig } = useRoom();
  const list = useRehearsals();
  const of = useMemo(() => list?.find((each) => recordsAlike(each.rig, rig)), [list, rig]);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), AGO_MS);
    return () => clearInterval(timer);
  }, []);
  // One that was just made is of after the last tick.
  const ago = of && agoText(of.startedAt, Math.max(now, new Date(of.startedAt).getTime()));
  return useMemo(() => (of && ago ? { of, ago } : null), [of, ago]);
}

const browserProblem = () => (typeof window === 'undefined' ? null : recordingProblem());

/** Everything that is known about this machine and the sources, for preflight. */
export function useFacts(
  marks: Facts['marks'] = null,
  textPx: number | null = null,
  activity: Activity | null = null,
): Facts {
  const { session } = useRoom();
  const sources = useSourceStates(session);
  // Whatever is expected: it must not be full before the end.
  const room = useRoomLeft(useMostBytesPerSecond());
  const { speeds, hintMs } = useEncoders();
  const permissions = usePermissions();
  const outside = useOutside();
  const store = useFinalStore();
  const rehearsal = useNewestRehearsal();
  return useMemo(
    () => ({
      browser: session ? null : browserProblem(),
      sources,
      room,
      store,
      speeds,
      hintMs,
      rehearsal,
      marks,
      textPx,
      activity,
      outside,
      permissions,
    }),
    [session, sources, room, store, speeds, hintMs, rehearsal, marks, textPx, activity, outside, permissions],
  );
}

/** The findings about the rig with the sources as they are now, the mostSevere first. */
export function useFindings() {
  const { rig } = useRoom();
  const facts = useFacts();
  const found = useMemo(() => preflight(rig, facts), [rig, facts]);
  return useHeld(rig, found);
}
