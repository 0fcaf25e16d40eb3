'use client';

import { App, Button, Flex, Input } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { clockText } from '@/core/base/figures';
import { newStepId, type StepId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import {
  at,
  type Cut,
  cutLengthUs,
  placedSteps,
  type Step,
  shownLengthsUs,
  stepTitle,
  whereSeen,
} from '@/core/cut/cut';
import { join, keep, moveEnd, remove, setGains, setLayout, setTitle, split } from '@/core/cut/edits';
import { headsAndTails } from '@/core/cut/heads-and-tails';
import { layoutName } from '@/core/layout/layout-kinds';
import { isSoundOnly } from '@/core/rig/picture-source';
import { type CutVersionView, cutOfTake, type EditPage } from '@/core/views/edit-page';
import type { ActionId } from '@/core/views/keys';
import { playerTake } from '@/player/files';
import { Key } from '../keys/key';
import { useAction } from '../keys/use-action';
import { useRoom } from '../lesson/lesson-room';
import { PageLink } from '../page/page-link';
import { FullScreen } from '../player/full-screen';
import { usePeaks } from '../player/peaks';
import { PlaceField } from '../player/place-field';
import { PlayButton } from '../player/play-button';
import { PlayingSpeed } from '../player/playing-speed';
import { SoundLevel } from '../player/sound-level';
import { usePlayer } from '../player/use-player';
import { usePlayerKeys } from '../player/use-player-keys';
import { fetchJson } from '../wire/fetch-json';
import { EditStrip, type Range } from './edit-strip';
import { EditVerdict } from './edit-verdict';
import { Layouts } from './layouts';
import { StepSound } from './step-sound';
import { TakeChoice } from './take-choice';
import { useCut } from './use-cut';
import { Versions } from './versions';

/** The Edit stage of a lesson that has a take. */
export function EditRoom({ page }: { page: EditPage & { cut: Cut } }) {
  const { lesson, leaves } = useRoom();
  const { message } = App.useApp();
  const keeper = useCut(lesson.id, page.cut, page.revision);
  const { cut, change } = keeper;
  useEffect(() => {
    if (keeper.saved) leaves('edit');
  }, [keeper.saved, leaves]);
  const frame = useRef<HTMLDivElement>(null);
  const [sources] = useState(() => page.takes.map(playerTake));
  const { player, state } = usePlayer(frame, sources, page.cut);
  usePlayerKeys(player);
  const peaks = usePeaks(page.takes.map(({ id }) => id));
  const [chosen, setChosen] = useState<Range | null>(null);
  const lengthUs = cutLengthUs(cut);
  const positionUs = Math.min(state.positionUs, lengthUs);
  const here = at(cut, positionUs);
  const takeOf = (step: Step) => page.takes.find(({ id }) => id === step.pieces[0]?.take);
  const take = takeOf(here.step);
  const rate = take?.rig.picture.frameRate ?? { num: 30, den: 1 };

  const shown = useRef(page.cut);
  useEffect(() => {
    if (!player || shown.current === cut) return;
    shown.current = cut;
    player.setCut(cut, Math.min(player.store.getState().positionUs, cutLengthUs(cut)));
  }, [player, cut]);

  /** An edit that cannot be says why, where it was asked for. @param goTo where the playhead stands afterwards */
  const edit = (make: (cut: Cut) => Cut, goTo?: number) => {
    try {
      const next = make(cut);
      if (next === cut) return;
      setChosen(null);
      if (player && goTo !== undefined) {
        shown.current = next;
        player.setCut(next, Math.min(goTo, cutLengthUs(next)));
      }
      change(next);
    } catch (error) {
      const { message: what, hint } = problemOf(error);
      message.warning(hint ? `${what} ${hint}` : what);
    }
  };

  // Heads and tails are looked for in what is left of the take at both ends.
  const proposed = useMemo(() => {
    const [first, last] = [cut.steps[0]?.pieces[0], cut.steps.at(-1)?.pieces.at(-1)];
    const take = page.takes.find(({ id }) => id === first?.take);
    const values = take && peaks.get(take.id)?.tracks.voice;
    if (!first || !last || !take || !values || last.take !== take.id) return null;
    const perSecond = peaks.get(take.id)?.perSecond ?? 50;
    const found = headsAndTails({ perSecond, values }, take.marksUs, take.durationUs ?? 0);
    if (!found) return null;
    const fromUs = whereSeen(cut, take.id, found.inUs) ?? 0;
    const toUs = whereSeen(cut, take.id, found.outUs) ?? cutLengthUs(cut);
    const gained = fromUs + cutLengthUs(cut) - toUs;
    return fromUs < toUs && gained > 200_000 ? { fromUs, toUs } : null;
  }, [cut, page.takes, peaks]);

  const trim = () => proposed && edit((now) => keep(now, proposed.fromUs, proposed.toUs), 0);
  /** Where the player is at this moment: a key may come before the last step was drawn. */
  const placeUs = () => Math.min(player?.store.getState().positionUs ?? positionUs, lengthUs);
  const choose = (end: 'from' | 'to') => {
    const atUs = placeUs();
    const [fromUs, toUs] =
      end === 'from'
        ? [atUs, chosen && chosen.toUs > atUs ? chosen.toUs : lengthUs]
        : [chosen && chosen.fromUs < atUs ? chosen.fromUs : 0, atUs];
    if (fromUs < toUs) setChosen({ fromUs, toUs });
  };
  const takeOut = () => chosen && edit((now) => remove(now, chosen.fromUs, chosen.toUs), chosen.fromUs);
  const keepOnly = () => chosen && edit((now) => keep(now, chosen.fromUs, chosen.toUs), 0);
  const splitHere = () => {
    const atUs = placeUs();
    edit((now) => split(now, atUs, newStepId()), atUs);
  };
  const dragged = useRef<{ cut: Cut; fresh: boolean } | null>(null);
  const onEnd = (end: 'start' | 'end', byUs: number, done: boolean) => {
    dragged.current ??= { cut, fresh: true };
    const { cut: from, fresh } = dragged.current;
    const piece = from.steps.at(end === 'start' ? 0 : -1)?.pieces.at(end === 'start' ? 0 : -1);
    const takeLengthUs = page.takes.find(({ id }) => id === piece?.take)?.durationUs ?? 0;
    if (piece) {
      const takeUs = (end === 'start' ? piece.inUs : piece.outUs) + byUs;
      change(moveEnd(from, end, takeUs, takeLengthUs), fresh ? 'step' : 'drag');
      dragged.current.fresh = false;
    }
    if (done) dragged.current = null;
  };

  useAction('edit.in', () => choose('from'));
  useAction('edit.out', () => choose('to'));
  useAction('edit.remove', takeOut);
  useAction('edit.keep', keepOnly);
  useAction('edit.split', splitHere);
  useAction('edit.trim', trim);
  useAction('edit.deselect', () => setChosen(null));
  useAction('edit.undo', keeper.undo, { repeats: true });
  useAction('edit.redo', keeper.redo, { repeats: true });

  const marksUs = page.takes.flatMap((take) =>
    take.marksUs.flatMap((us) => whereSeen(cut, take.id, us) ?? []),
  );
  const goTo = (id: StepId) => {
    const placed = placedSteps(cut).find(({ step }) => step.id === id);
    if (placed) player?.seek(placed.startUs);
  };
  const lengths = shownLengthsUs(cut);
  const soundOnly = take !== undefined && isSoundOnly(take.rig);
  const [width, height] = [state.size?.width ?? 16, state.size?.height ?? 9];
  return (
    <main className="edit">
      <EditVerdict
        lesson={lesson.id}
        lengthUs={lengthUs}
        proposed={proposed}
        selected={chosen}
        rate={rate}
        problem={keeper.problem}
        failure={state.failure}
        onTrim={trim}
      />
      <section className="steps-list" aria-label="Steps of the video">
        <div className="row">
          <h2>
            {cut.steps.length} {cut.steps.length === 1 ? 'step' : 'steps'}, {clockText(lengthUs)}
          </h2>
          <span className="grow" />
          <span className="small mute" role="status">
            {keeper.saving ? 'saving …' : 'saved'}
          </span>
        </div>
        <ol>
          {cut.steps.map((step, i) => (
            <li key={step.id} className={step.id === here.step.id ? 'on' : ''}>
              <Button
                shape="circle"
                color={step.id === here.step.id ? 'primary' : 'default'}
                variant={step.id === here.step.id ? 'filled' : 'outlined'}
                onClick={() => goTo(step.id)}
              >
                <span className="fig">{i + 1}</span>
                <span className="sr-only">Go to {stepTitle(cut, step.id)}</span>
              </Button>
              <span className="grow">
                <Input
                  variant="borderless"
                  style={{ paddingInline: 0 }}
                  aria-label={`Title of step ${i + 1}`}
                  value={step.title}
                  placeholder={stepTitle(cut, step.id)}
                  maxLength={200}
                  onChange={({ target }) => change(setTitle(cut, step.id, target.value))}
                />
                <span className="small mute">{layoutName(step.layout)}</span>
              </span>
              <span className="fig">{clockText(lengths[i] ?? 0)}</span>
              {i > 0 && (
                <Button
                  type="text"
                  aria-label={`Join ${stepTitle(cut, step.id)} to the step before it`}
                  title="Join to the step before"
                  onClick={() => edit((now) => join(now, step.id), positionUs)}
                >
                  Join
                </Button>
              )}
            </li>
          ))}
        </ol>
        <TakeChoice takes={page.takes} cut={cut} onChoose={(take) => edit(() => cutOfTake(take), 0)} />
        <Versions
          lesson={lesson.id}
          load={async () => {
            await keeper.flush();
            return fetchJson<CutVersionView[]>('GET', `/api/lessons/${lesson.id}/cut/versions`);
          }}
          onRestore={(restored) => edit(() => restored, 0)}
        />
      </section>
      <section
        className="player"
        aria-label="Player"
        data-loaded={state.loaded}
        data-exact={state.exact}
        data-position={positionUs}
      >
        <div
          className={soundOnly ? 'screen sound-only' : 'screen'}
          ref={frame}
          style={{
            aspectRatio: `${width} / ${height}`,
            width: `min(100%, calc((100vh - 374px) * ${width / height}))`,
          }}
        />
      </section>
      <div className="stack">
        {soundOnly ? (
          <p className="mute">Sound only: there is no picture.</p>
        ) : (
          <Layouts
            layout={here.step.layout}
            withCamera={take?.withCamera ?? false}
            place={take?.rig.camera?.place ?? null}
            onChange={(layout, how) =>
              how === 'drag'
                ? change(setLayout(cut, here.step.id, layout), how)
                : edit((now) => setLayout(now, here.step.id, layout), positionUs)
            }
          />
        )}
        <StepSound
          gains={here.step.gains}
          withAppSound={take?.rig.appSound !== null}
          onChange={(gains, how) => change(setGains(cut, here.step.id, gains), how)}
        />
        <fieldset>
          <legend className="small">Playback</legend>
          <Flex align="center" justify="space-between">
            <SoundLevel player={player} />
            <FullScreen frame={frame} />
          </Flex>
          <Flex align="center" justify="space-between">
            <span className="small mute">Speed</span>
            <PlayingSpeed player={player} />
          </Flex>
        </fieldset>
      </div>
      <section className="edit-foot" aria-label="Time strip">
        <EditStrip
          cut={cut}
          peaks={peaks}
          marksUs={marksUs}
          positionUs={positionUs}
          chosen={chosen}
          proposed={proposed}
          step={here.step.id}
          onSeek={(us) => player?.seek(us)}
          onChoose={setChosen}
          onStep={goTo}
          onEnd={onEnd}
        />
        <div className="row transport">
          <PlayButton player={player} state={state} />
          <PlaceField
            positionUs={positionUs}
            durationUs={lengthUs}
            rate={rate}
            onSeek={(us) => player?.seek(us)}
          />
          <Act action="edit.in" label="Mark in" onClick={() => choose('from')} />
          <Act action="edit.out" label="Mark out" onClick={() => choose('to')} />
          <Act action="edit.remove" label="Delete" disabled={!chosen} onClick={takeOut} />
          <Act action="edit.keep" label="Trim to selection" disabled={!chosen} onClick={keepOnly} />
          <Act action="edit.split" label="Split here" onClick={splitHere} />
          <span className="grow" />
          <Act action="edit.undo" label="Undo" disabled={!keeper.canUndo} onClick={keeper.undo} />
          <Act action="edit.redo" label="Redo" disabled={!keeper.canRedo} onClick={keeper.redo} />
        </div>
      </section>
      <p className="sr-only">
        <PageLink href={`/lessons/${lesson.id}/record`}>Record another take</PageLink>
      </p>
    </main>
  );
}

function Act(props: { action: ActionId; label: string; disabled?: boolean; onClick: () => unknown }) {
  return (
    <Button disabled={props.disabled} onClick={props.onClick}>
      {props.label} <Key of={props.action} />
    </Button>
  );
}
