'use client';

import { Button, Col, Divider, Row } from 'antd';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import { aboutBytesText, bytesText, clockText } from '@/core/base/figures';
import type { LessonId } from '@/core/base/ids';
import { type Problem, problemOf } from '@/core/base/problem';
import type { Destination } from '@/core/destination/destination';
import type { HandOverPage, ParcelPlan } from '@/core/views/parcel';
import { useRoom } from '../lesson/lesson-room';
import { ButtonLink } from '../page/button-link';
import { Verdict } from '../page/verdict';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';
import { CheckFile } from './check-file';
import { Destinations } from './destinations';
import { ParcelRow } from './parcel-row';
import { type PictureSettings, PlanPanel, withSettings } from './plan-panel';
import { useDestinations } from './use-destinations';

/** Hand over: choose where the video goes, see what it will be, make it, give it away. */
export function HandOverStage({ page }: { page: HandOverPage }) {
  const { lesson } = useRoom();
  const router = useRouter();
  const told = useTold();
  const known = useDestinations();
  const [chosen, setChosen] = useState(known.all[0]?.id ?? '');
  const place = known.all.find(({ id }) => id === chosen) ?? known.all[0];
  const [settings, setSettings] = useState<PictureSettings>({});
  const destination = useMemo(() => place && withSettings(place, settings), [place, settings]);
  const refresh = () => router.refresh();
  const coming = useComing(page, refresh);
  const { plan, problem } = usePlan(lesson.id, page && destination && !coming ? destination : null);
  const [making, setMaking] = useState(false);
  if (!page || !destination) return <Nothing coming={coming} lesson={lesson.id} />;
  const make = async () => {
    setMaking(true);
    if (await told(fetchJson('POST', `/api/lessons/${lesson.id}/parcels`, { destination }))) refresh();
    setMaking(false);
  };
  const waiting = coming ? 'The take is uploading.' : 'Looking at the takes …';
  return (
    <main className="hand-over">
      {problem ? (
        <Verdict kind="warn" sentence={problem.message} detail={problem.hint}>
          <Button onClick={() => window.location.reload()}>Look again</Button>
        </Verdict>
      ) : (
        <Verdict
          kind="good"
          sentence={plan ? sizeSentence(plan, page.lengthUs) : waiting}
          detail={plan?.sentence}
        >
          <ButtonLink href={`/lessons/${lesson.id}/edit`}>Edit</ButtonLink>
          <Button type="primary" disabled={!plan || making} onClick={make}>
            Make it for “{destination.name}”
          </Button>
        </Verdict>
      )}
      <Row gutter={[28, 14]} style={{ marginTop: 18 }}>
        <Col xs={24} md={8} xl={7} xxl={6}>
          <Destinations known={known} chosen={chosen} onChoose={setChosen} />
        </Col>
        <Col xs={24} md={16} xl={17} xxl={18}>
          <PlanPanel
            {...{ destination, plan }}
            takeBytes={page.takeBytes}
            lengthUs={page.lengthUs}
            onSettings={(change) => setSettings((before) => ({ ...before, ...change }))}
          />
        </Col>
      </Row>
      <Divider />
      <Parcels page={page} coming={coming} title={lesson.title} onChange={refresh} />
      <CheckFile destination={destination} />
    </main>
  );
}

const Nothing = ({ coming, lesson }: { coming: boolean; lesson: LessonId }) => (
  <main>
    <Verdict
      kind="good"
      sentence={coming ? 'The take is uploading.' : 'There is no take to hand over yet.'}
      detail={
        coming
          ? 'It is handed over as soon as it has been uploaded.'
          : 'Record one; it can be handed over as soon as it is uploaded.'
      }
    >
      <ButtonLink type="primary" href={`/lessons/${lesson}/record`}>
        Record
      </ButtonLink>
    </Verdict>
  </main>
);

/** What was made of this video, the newest first. */
function Parcels(props: {
  page: NonNullable<HandOverPage>;
  coming: boolean;
  title: string;
  onChange: () => void;
}) {
  const { parcels } = props.page;
  const section = useRef<HTMLElement>(null);
  const count = useRef(parcels.length);
  useEffect(() => {
    // It begins below the fold of most windows: whoever orders one sees that it is made.
    if (parcels.length > count.current) section.current?.scrollIntoView({ block: 'nearest' });
    count.current = parcels.length;
  }, [parcels.length]);
  return (
    <section className="parcels" aria-label="Parcels" ref={section}>
      <h2>Parcels</h2>
      {props.coming && (
        <p role="status">
          The take that was just recorded is on its way; a parcel is made of it as soon as it is there.
        </p>
      )}
      {parcels.length === 0 ? (
        <p className="mute">Nothing has been made of this video yet.</p>
      ) : (
        <ul>
          {parcels.map((parcel) => (
            <ParcelRow key={parcel.id} parcel={parcel} title={props.title} onChange={props.onChange} />
          ))}
        </ul>
      )}
    </section>
  );
}

const LOOK_AGAIN_MS = 1500;

/** A take that was just recorded and is handed over alone: the page is drawn again until its parcel stands here. */
function useComing(page: HandOverPage, refresh: () => void): boolean {
  const take = useSearchParams()?.get('take') ?? null;
  const there = page?.parcels.some(({ takes }) => takes.some((id) => id === take));
  const coming = take !== null && !there;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `refresh` is new at each drawing and always does the same
  useEffect(() => {
    if (!coming) return;
    const timer = setInterval(refresh, LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [coming]);
  return coming;
}

function sizeSentence({ expected: { bytes, from, to } }: ParcelPlan, lengthUs: number): string {
  const length = clockText(lengthUs);
  if (from === to) return `${bytesText(bytes)} for ${length}.`;
  return `About ${aboutBytesText(bytes)} for ${length}, between ${aboutBytesText(from)} and ${aboutBytesText(to)}.`;
}

/** What would be made, asked of the server whenever another place is chosen. */
function usePlan(
  lesson: LessonId,
  destination: Destination | null,
): { plan: ParcelPlan | null; problem: Problem | null } {
  const [known, setKnown] = useState<{ plan: ParcelPlan | null; problem: Problem | null }>({
    plan: null,
    problem: null,
  });
  const asked = destination && JSON.stringify(destination);
  useEffect(() => {
    if (!asked) return;
    const leaving = new AbortController();
    const { signal } = leaving;
    setKnown({ plan: null, problem: null });
    const foresee = async (sampled: boolean) => {
      const body = { destination: JSON.parse(asked), sampled };
      const path = `/api/lessons/${lesson}/parcels/foresee`;
      const plan = await fetchJson<ParcelPlan>('POST', path, body, signal);
      if (!signal.aborted) setKnown({ plan, problem: null });
      return plan;
    };
    foresee(false)
      .then(({ way }) => (way === 'encode' && !signal.aborted ? foresee(true) : null))
      .catch((error) => !signal.aborted && setKnown({ plan: null, problem: problemOf(error) }));
    // The server leaves off sampling for a destination that nobody looks at any more.
    return () => leaving.abort();
  }, [lesson, asked]);
  return known;
}
