import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { TakeId } from '@/core/base/ids';
import { planPlainVideo } from '@/core/commands/plain-video';
import { seconds } from '@/core/commands/seconds';
import { SOUND_TRACKS, type SoundTrackKind, soundWork } from '@/core/deliver/heard-sound';
import type { PlainInput } from '@/core/deliver/plain-input';
import { trackGaps } from '@/core/recording/gaps';
import { segmentEndUs } from '@/core/recording/segment-end';
import { segmentRuns } from '@/core/recording/segment-runs';
import { type StillSpan, stillSpans } from '@/core/recording/still';
import { TakeEvent, TRACK_NAMES, TrackKind } from '@/core/recording/take';
import { tracksAsked } from '@/core/recording/tracks-asked';
import type { TakeFacts } from '@/core/views/take-page';
import { Take, TakeEventRow } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { segmentHeads } from '../db/take-segments';
import { withGraphFiles } from '../delivery/graph-files';
import { makeHeardSound } from '../delivery/make-heard-sound';
import { orderParcelOf } from '../delivery/parcels';
import { type Report, runJob } from '../jobs/run-job';
import { ffmpeg } from '../media/ffmpeg';
import { heardPath, madePath, makeFile, sizeOf, takeDir, temporaryFor } from '../media/media-folder';
import { frameFigures } from '../media/probe';
import { soundCurves } from '../media/sound-curves';
import { readPackets } from '../takes/packet-index';
import { type Part, partInput, readParts } from '../takes/segment-parts';
import { orderFollowing } from '../takes/take-files';

/**
 * Finishes a take: looks at every segment, keeps its events, makes the file of all tracks, the plain video, the thumbnail
 * and the waveform. Running it again makes the same files again. Does nothing when another worker is at it.
 */
export const finishTake = (takeId: TakeId): Promise<void> => {
  let first = false;
  return runJob(
    'finish-take',
    takeId,
    async (report, signal) => {
      const em = await unitOfWork();
      const take = await em.findOneOrFail(Take, { id: takeId }, { populate: ['tracks.segments'] });
      first = !take.facts;
      return await work(em, take, report, signal);
    },
    async (outcome, facts) => {
      const em = await unitOfWork();
      await em.nativeUpdate(
        Take,
        { id: takeId },
        outcome === 'done' ? { facts, state: 'ready' } : { state: 'failed' },
      );
      if (outcome !== 'done') return;
      await orderFollowing(takeId);
      const { afterStop, handOverTo } = (await em.findOneOrFail(Take, { id: takeId })).rig;
      if (first && afterStop === 'hand-over' && handOverTo) await orderParcelOf(takeId, handOverTo);
    },
  );
};

async function work(em: UnitOfWork, take: Take, report: Report, signal: AbortSignal): Promise<TakeFacts> {
  report('Looking at the tracks', 0.02);
  const parts = await readParts(take);
  await keepEvents(em, take, parts);
  const media = parts.filter(({ head }) => head.configuration.type !== 'events');
  const durationUs = take.durationUs ?? Math.max(0, ...media.map(({ timesUs }) => timesUs.at(-1) ?? 0));
  report('Putting the tracks into one file', 0.08);
  await makeRecorded(take.id, media, signal);
  report('Making the sound', 0.12);
  const { heard, inputs } = await makeHeard(take, media, durationUs, signal);
  const [plain] = await Promise.all([
    makePlainVideo(take, inputs, durationUs, signal, (share) =>
      report('Making the plain video', 0.15 + 0.75 * share),
    ),
    makePeaks(take.id, inputs, signal),
  ]);
  const screen = media.filter(({ head }) => head.track === 'screen');
  const faults = await faultsOf(em, take);
  const [first] = screen;
  if (plain && first) {
    report('Taking the thumbnail', 0.96);
    await makeThumbnail(take.id, plain.durationUs, signal);
  }
  const configuration = first?.head.configuration;
  return {
    durationUs,
    bytes: parts.reduce((sum, { bytes }) => sum + bytes, 0),
    gaps: trackGaps(
      media.map(({ head, timesUs }) => {
        // A still screen says nothing for as long as it is still: its last picture stands until the source goes or the recorder fails.
        const stands = head.track === 'screen' && !faults.some(({ track }) => track === 'screen');
        const endUs = stands ? durationUs : segmentEndUs(timesUs);
        return { track: head.track, startUs: head.startUs, endUs };
      }),
      durationUs,
      faults,
      tracksAsked(take.rig),
    ),
    picture:
      configuration?.type === 'video'
        ? {
            width: configuration.width,
            height: configuration.height,
            ...frameFigures(screen.flatMap(({ timesUs }) => timesUs)),
          }
        : null,
    still: await stillOf(take, durationUs),
    heard,
    madeAt: new Date().toISOString(),
    plainVideo: plain,
  };
}

/** Where little changes on the screen. */
async function stillOf(take: Take, durationUs: number): Promise<StillSpan[]> {
  const heads = segmentHeads(take).filter(({ track }) => track === 'screen');
  const runs = await Promise.all(
    segmentRuns(heads).map(async (run) =>
      (await readPackets(take.id, run)).map((packet) => ({ ...packet, us: packet.us + run[0].startUs })),
    ),
  );
  return stillSpans(runs.flat(), durationUs);
}

/** Events become rows once; a second run adds those that arrived since. */
async function keepEvents(em: UnitOfWork, take: Take, parts: Part[]): Promise<void> {
  const known = new Set((await em.find(TakeEventRow, { take }, { fields: ['seq'] })).map(({ seq }) => seq));
  for (const { path } of parts.filter(({ head }) => head.configuration.type === 'events'))
    for (const line of (await readFile(path, 'utf8')).split('\n')) {
      let json: unknown;
      try {
        json = JSON.parse(line);
      } catch {
        // The last line of a journal that was cut off may be torn.
        continue;
      }
      const event = TakeEvent.safeParse(json);
      if (!event.success) continue;
      const { v, seq, tUs, kind, data } = event.data;
      if (known.has(seq)) continue;
      em.create(TakeEventRow, { take, version: v, seq, atUs: tUs, kind, data });
    }
  await em.flush();
}

/** Where the recorder could not go on with a track. */
async function faultsOf(em: UnitOfWork, take: Take): Promise<{ track: TrackKind; tUs: number }[]> {
  const events = await em.find(TakeEventRow, { take, kind: 'fault' });
  return events.flatMap(({ atUs, data }) => {
    const track = TrackKind.safeParse(data.role);
    return track.success ? { track: track.data, tUs: atUs } : [];
  });
}

/**
 * Clusters of a quarter of a second at most. Who looks for a place in a Matroska file reads whole clusters: with those of two seconds that
 * FFmpeg makes otherwise, that was all between two keyframes.
 */
const CLUSTERS = ['-cluster_time_limit', '250'];

/** All tracks, untouched, in one Matroska. */
async function makeRecorded(takeId: TakeId, parts: Part[], signal: AbortSignal): Promise<void> {
  if (parts.length === 0) return;
  // The screen first, whatever came first: a player that shows only one picture shows that.
  const order = (part: Part) => TrackKind.options.indexOf(part.head.track);
  const media = [...parts].sort((a, b) => order(a) - order(b) || a.head.startUs - b.head.startUs);
  await makeFile(madePath(takeId, 'recorded.mkv'), async (temporary) => {
    const inputs = media.flatMap(({ head, path }) => [
      ...(head.encoderDelayUs > 0 ? ['-itsoffset', seconds(-head.encoderDelayUs)] : []),
      '-i',
      path,
    ]);
    const maps = media.flatMap(({ head }, i) => {
      const name =
        head.index === 0 ? TRACK_NAMES[head.track] : `${TRACK_NAMES[head.track]} ${head.index + 1}`;
      return ['-map', String(i), `-metadata:s:${i}`, `title=${name}`];
    });
    // The take's time 0 stays 0: what a sound encoder puts before its first sample lies before it.
    const times = ['-copyts', '-avoid_negative_ts', 'disabled'];
    await ffmpeg([...inputs, ...maps, '-c', 'copy', ...times, ...CLUSTERS, temporary], { signal });
  });
}

/** The tracks as they are seen and heard: a sound that is treated or moved in time is a file of its own. */
async function makeHeard(
  take: Take,
  media: readonly Part[],
  durationUs: number,
  signal: AbortSignal,
): Promise<{ heard: SoundTrackKind[]; inputs: PlainInput[] }> {
  const works = soundWork(take.rig, take.treatment ?? null);
  let inputs = media.map(partInput);
  const heard: SoundTrackKind[] = [];
  for (const track of SOUND_TRACKS) {
    const own = inputs.filter((input) => input.track === track);
    const work = works[track];
    if (!work || own.length === 0) {
      await rm(heardPath(take.id, track), { force: true });
      continue;
    }
    const made = await makeHeardSound(take.id, track, own, work, durationUs, signal);
    inputs = [...inputs.filter((input) => input.track !== track), made];
    heard.push(track);
  }
  return { heard, inputs };
}

async function makePlainVideo(
  take: Take,
  inputs: PlainInput[],
  durationUs: number,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<TakeFacts['plainVideo']> {
  const plan = planPlainVideo(inputs, take.rig, durationUs, temporaryFor(join(takeDir(take.id), 'graph')));
  if (!plan) return null;
  const path = madePath(take.id, 'plain.mp4');
  await withGraphFiles(plan.files, () =>
    makeFile(path, (temporary) => ffmpeg([...plan.args, temporary], { durationUs, onProgress, signal })),
  );
  return { bytes: (await sizeOf(path)) ?? 0, durationUs, pictureCopied: plan.pictureCopied };
}

/** The last frame but a little: the very last second is often the hand that goes to "stop". */
async function makeThumbnail(takeId: TakeId, durationUs: number, signal: AbortSignal): Promise<void> {
  const at = Math.max(0, durationUs - 1_500_000);
  await makeFile(madePath(takeId, 'thumbnail.jpg'), (temporary) =>
    ffmpeg(
      [
        '-ss',
        seconds(at),
        '-i',
        madePath(takeId, 'plain.mp4'),
        '-frames:v',
        '1',
        '-vf',
        'scale=1024:-2',
        '-q:v',
        '3',
        temporary,
      ],
      { signal },
    ),
  );
}

/** The waveform and the loudness of each sound track. */
async function makePeaks(takeId: TakeId, inputs: readonly PlainInput[], signal: AbortSignal): Promise<void> {
  const sounds = inputs.flatMap(({ track, startUs, path, configuration }) =>
    configuration.type === 'audio' ? [{ track, startUs, path, channels: configuration.channels }] : [],
  );
  const curves = await soundCurves(sounds, signal);
  await makeFile(madePath(takeId, 'peaks.json'), (temporary) => writeFile(temporary, JSON.stringify(curves)));
}
