'use client';

import { Flex } from 'antd';
import {
  memo,
  type ReactNode,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { newStepId, type StepId, type TakeId } from '@/core/base/ids';
import type { FrameRate } from '@/core/base/rational';
import { at, type Cut, cutLengthUs, placedSteps, type Step } from '@/core/cut/cut';
import { marksOf, type PlacedMark, placedMarks } from '@/core/cut/marks';
import type { HeardTake } from '@/core/cut/proposals';
import { insertStep } from '@/core/cut/whole-steps';
import { isSoundOnly } from '@/core/rig/picture-source';
import { type CutVersionView, cutOfTake, type EditPage, stepOfTake } from '@/core/views/edit-page';
import { playerTake } from '@/player/files';
import type { Player } from '@/player/player';
import { useRoom } from '../lesson/lesson-room';
import { usePeaks } from '../player/peaks';
import { usePlayed, usePlayer } from '../player/use-player';
import { usePlayerKeys } from '../player/use-player-keys';
import { fetchJson } from '../wire/fetch-json';
import { useSame } from '../wire/use-same';
import { type AddedTake, AddTake } from './add-take';
import { AreaEditor } from './area-editor';
import { BringIn } from './bring-in';
import { EditStrip } from './edit-strip';
import { EditVerdict } from './edit-verdict';
import { heardTake, trimmedTake } from './heard-take';
import { Marks } from './marks';
import { Proposals } from './proposals';
import { StepLook } from './step-look';
import { StepsList } from './steps-list';
import type { Recorded } from './strip-lanes';
import { TakeChoice } from './take-choice';
import { Transport } from './transport';
import { cutToDrawOn, type DrawnArea, useAreas } from './use-areas';
import { useBrought } from './use-brought';
import { type CutKeeper, useCut } from './use-cut';
import { type Edits, useEdits } from './use-edits';
import { useEnvelopes } from './use-envelopes';
import { usePreview } from './use-preview';
import { useProposed } from './use-proposed';
import { useRecordedAgain } from './use-recorded-again';
import { useStripDrags } from './use-strip-drags';
import { Versions } from './versions';

const USUAL_RATE = { num: 30, den: 1 };

/** The Edit stage of a lesson that has a take. */
export function EditRoom({ page }: { page: EditPage & { cut: Cut } }) {
  const { takes } = page;
  const { lesson } = useRoom();
  const keeper = useCutOfRoom(page);
  const { cut } = keeper;
  const [sources] = useState(() => page.takes.map(playerTake));
  const frame = useRef<HTMLDivElement>(null);
  const player = usePlayer(frame, sources, page.cut);
  usePlayerKeys(player);
  const lengthUs = cutLengthUs(cut);
  // The position itself is asked for only by what shows it: it changes with every picture.
  const step = usePlayed(player, ({ positionUs }) => at(cut, Math.min(positionUs, lengthUs)).step);
  const loaded = usePlayed(player, (state) => state.loaded);
  const failure = usePlayed(player, (state) => state.failure);
  const areas = useAreas(step);
  const shown = useShownCut(player, page.cut, cut, areas.drawn);
  const { peaks, recorded, heard, trimmed, proposed } = useHeard(cut, takes);
  const { edits, chosen } = useEdits(keeper, player, shown, proposed);
  const preview = usePreview(player, cut, shown);
  const drags = useStripDrags(keeper, takes);
  const envelopes = useEnvelopes(keeper);
  useBrought(edits, takes, loaded);
  useRecordedAgain(keeper, edits, takes, trimmed, (id) => peaks.has(id));
  const take = takes.find(({ id }) => id === step.pieces[0]?.take);
  const rate = take?.rig.picture.frameRate ?? USUAL_RATE;
  const { soundOnly, marks } = useShownTakes(cut, takes);
  const { goTo, addTake, playJoint } = useSame({
    goTo: (id: StepId) => {
      const placed = placedSteps(cut).find((each) => each.step.id === id);
      if (placed) player?.seek(placed.startUs);
    },
    playJoint: (us: number, loops: boolean) => preview(cut, us, loops),
    addTake: (one: AddedTake) =>
      edits.edit((now, atUs) => insertStep(now, atUs, stepOfTake(one, trimmed(one)), newStepId())),
  });
  return (
    <main className="edit">
      <EditVerdict
        {...{ lesson: lesson.id, lengthUs, proposed, rate, failure }}
        selected={chosen}
        problem={keeper.problem}
        onTrim={edits.trim}
      />
      <StepsList
        {...{ keeper, goTo, soundOnly, here: step.id }}
        edit={edits.edit}
        add={<AddTake {...{ takes, trimmed }} placeUs={edits.placeUs} flush={keeper.flush} onAdd={addTake} />}
      >
        <Sources {...{ page, heard, marks, rate, keeper, edits, player, shown }} />
      </StepsList>
      <Screen {...{ frame, player }} isSoundOnly={take !== undefined && isSoundOnly(take.rig)}>
        {areas.drawn && <DrawnOn {...{ step, takes, keeper, player }} drawn={areas.drawn} />}
      </Screen>
      <StepLook {...{ step, takes, recorded, keeper, edits, areas, envelopes, player, frame }} />
      <section className="edit-foot" aria-label="Time strip">
        <EditStrip
          {...{ cut, recorded, marks, drags, envelopes, player, proposed, chosen }}
          step={step.id}
          onChoose={edits.choose}
          onStep={goTo}
          onJoint={playJoint}
        />
        <Transport {...{ player, lengthUs, rate, keeper, edits, chosen }} />
      </section>
    </main>
  );
}

/** Which takes have no picture, and the marks of all of them that the video shows. */
function useShownTakes(cut: Cut, takes: EditPage['takes']) {
  const soundOnly = useMemo(
    () => new Set(takes.filter(({ rig }) => isSoundOnly(rig)).map(({ id }) => id)),
    [takes],
  );
  const marks = useMemo(() => placedMarks(cut, takes), [cut, takes]);
  return { soundOnly, marks };
}

/** Where steps come from, and what else there is for the whole cut. */
const Sources = memo(function Sources(props: {
  page: EditPage;
  heard: readonly HeardTake[];
  marks: readonly PlacedMark[];
  rate: FrameRate;
  keeper: CutKeeper;
  edits: Edits;
  player: Player | null;
  shown: RefObject<Cut>;
}) {
  const { page, heard, marks, rate, keeper, edits, player, shown } = props;
  const { cut } = keeper;
  const { lesson } = useRoom();
  return (
    <>
      <TakeChoice takes={page.takes} cut={cut} onChoose={(one) => edits.edit(() => cutOfTake(one), 0)} />
      <Flex gap={8} wrap style={{ marginTop: 8 }}>
        <BringIn incoming={page.incoming} placeUs={edits.placeUs} flush={keeper.flush} />
        <Proposals {...{ cut, heard, rate, edits, player, shown }} />
        <Marks {...{ keeper, marks, rate, player }} takes={page.takes} />
        <Versions
          lesson={lesson.id}
          load={async () => {
            await keeper.flush();
            return fetchJson<CutVersionView[]>('GET', `/api/lessons/${lesson.id}/cut/versions`);
          }}
          onRestore={(restored) => edits.edit(() => restored, 0)}
        />
      </Flex>
    </>
  );
});

/** What is known of the takes' sounds, and what could be trimmed by it. Looked for once, not at every frame that is played. */
function useHeard(cut: Cut, takes: EditPage['takes']) {
  const peaks = usePeaks(takes.map(({ id }) => id));
  const { marks } = cut;
  const heard = useMemo(
    () => takes.map((each) => heardTake(each, marksOf({ marks }, each), peaks.get(each.id))),
    [takes, marks, peaks],
  );
  const trims = useMemo(() => new Map(heard.map((each) => [each.id, trimmedTake(each)])), [heard]);
  const trimmed = useCallback(({ id }: { id: TakeId }) => trims.get(id) ?? null, [trims]);
  const recorded = useMemo(() => ({ peaks, tracks: tracksOf(takes) }), [peaks, takes]);
  return { peaks, recorded, heard, trimmed, proposed: useProposed(cut, heard) };
}

const tracksOf = (takes: EditPage['takes']): Recorded['tracks'] =>
  new Map(takes.map(({ id, segments }) => [id, new Set(segments.map(({ track }) => track))]));

/** The lesson's cut; once something of it was saved, the lesson has left the stages before. */
function useCutOfRoom({ cut, revision }: EditPage & { cut: Cut }): CutKeeper {
  const { lesson, leaves } = useRoom();
  const keeper = useCut(lesson.id, cut, revision);
  useEffect(() => {
    if (keeper.saved) leaves('edit');
  }, [keeper.saved, leaves]);
  return keeper;
}

/** Has a player follow the cut, without what is drawn on its picture. @returns the cut that it was told last */
function useShownCut(player: Player | null, first: Cut, cut: Cut, drawn: DrawnArea | null): RefObject<Cut> {
  const shown = useRef(first);
  const wanted = useMemo(() => (drawn ? cutToDrawOn(cut, drawn) : cut), [cut, drawn]);
  useEffect(() => {
    if (!player || shown.current === wanted) return;
    shown.current = wanted;
    player.setCut(wanted, Math.min(player.store.getState().positionUs, cutLengthUs(wanted)));
  }, [player, wanted]);
  return shown;
}

function Screen(props: {
  frame: RefObject<HTMLDivElement | null>;
  player: Player | null;
  isSoundOnly: boolean;
  /** What is drawn on the picture. */
  children: ReactNode;
}) {
  const state = usePlayed(props.player, (all) => all);
  const [width, height] = [state.size?.width ?? 16, state.size?.height ?? 9];
  return (
    <section
      className="player"
      aria-label="Player"
      data-loaded={state.loaded}
      data-exact={state.exact}
      data-position={Math.min(state.positionUs, state.durationUs)}
    >
      <div
        className="drawn-on"
        style={{
          aspectRatio: `${width} / ${height}`,
          width: `min(100%, calc((100vh - 394px) * ${width / height}))`,
        }}
      >
        <div className={props.isSoundOnly ? 'screen sound-only' : 'screen'} ref={props.frame} />
        {props.children}
      </div>
    </section>
  );
}

/** What is drawn on the picture: over the screen that is seen at the playhead. */
function DrawnOn(props: {
  drawn: DrawnArea;
  step: Step;
  takes: EditPage['takes'];
  keeper: CutKeeper;
  player: Player | null;
}) {
  const { drawn, step, takes, keeper, player } = props;
  const picture = usePlayed(player, ({ size }) => size);
  const shown = usePlayed(player, ({ positionUs }) => at(keeper.cut, positionUs).piece.take);
  const size = takes.find(({ id }) => id === shown)?.facts?.picture ?? picture;
  return picture && size && <AreaEditor {...{ drawn, step, picture, size, keeper }} />;
}
