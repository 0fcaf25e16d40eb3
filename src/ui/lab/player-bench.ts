import { ALL_FORMATS, EncodedPacketSink, Input, UrlSource } from 'mediabunny';
import { newStepId, type TakeId } from '@/core/base/ids';
import { type Cut, defaultCut } from '@/core/cut/cut';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { openPlayer, type Player, type PlayerState } from '@/player/player';

export type PlayerTimes = {
  coldPictureMs: number[];
  coldExactMs: number[];
  /** What a decoder alone takes for the same pictures. */
  bareExactMs: number[];
  warmMs: number[];
  due: number;
  missed: number;
};

/** Size of the player on the take's page. */
const SIZE = { width: 880, height: 496 };

/** A pause as long as people make before they look for the exact frame. */
const REST_MS = 700;

/** Resolves as soon as the player's state is as wished. */
function until(player: Player, wished: (state: PlayerState) => boolean): Promise<void> {
  return new Promise((resolve, reject) => {
    const look = () => {
      const { failure } = player.store.getState();
      if (failure) reject(new Error(failure));
      else if (wished(player.store.getState())) resolve();
      else return;
      leave();
    };
    const leave = player.store.subscribe(look);
    look();
  });
}

const fileOf = (id: TakeId) => `/api/media/${id}/recorded.mkv`;

/** All of a take; every other ten seconds of it twice as large, moving there and back. */
function cutFor(id: TakeId, durationUs: number, isZoomed: boolean): Cut {
  const camera = PRACTICE_RIG.camera?.place ?? null;
  const cut = defaultCut(newStepId(), { id, durationUs, camera, gains: { voiceDb: 0, appSoundDb: 0 } });
  if (!isZoomed) return cut;
  const zooms = Array.from({ length: Math.floor(durationUs / 20e6) + 1 }, (_, n) => ({
    ...{ fromUs: 20e6 * n + 2e6, toUs: Math.min(durationUs, 20e6 * n + 12e6), easeUs: 600_000 },
    area: { x: 0.3, y: 0.2, width: 0.5, height: 0.5 },
  })).filter(({ fromUs, toUs }) => fromUs < toUs);
  return { ...cut, steps: cut.steps.map((step) => ({ ...step, zooms })) };
}

async function open(id: TakeId, durationUs: number, isZoomed: boolean): Promise<Player> {
  const canvas = document.createElement('canvas');
  document.body.replaceChildren(canvas);
  const files = [{ url: fileOf(id), track: 'by-name' as const, shiftUs: 0 }];
  const cut = cutFor(id, durationUs, isZoomed);
  const player = openPlayer(canvas, [{ id, files, durationUs, rate: { num: 30, den: 1 } }], cut);
  player.resize(SIZE.width, SIZE.height);
  await until(player, ({ loaded, exact }) => loaded && exact);
  return player;
}

/** Milliseconds from the wish to any picture of the place, and to the very one. */
async function seek(player: Player, us: number): Promise<{ pictureMs: number; exactMs: number }> {
  const from = performance.now();
  let changes = 0;
  let pictureMs = 0;
  const leave = player.store.subscribe(() => {
    // The first change is the wish itself.
    if (++changes === 2) pictureMs = performance.now() - from;
  });
  player.seek(us);
  await until(player, ({ exact }) => exact);
  leave();
  return { pictureMs, exactMs: performance.now() - from };
}

/**
 * The least that any player takes to the very picture of a time: a decoder that is ready, its packets in memory, nothing
 * read, drawn or laid over it.
 */
async function openBare(id: TakeId): Promise<(us: number) => Promise<number>> {
  const input = new Input({ source: new UrlSource(fileOf(id)), formats: ALL_FORMATS });
  const track = await input.getPrimaryVideoTrack();
  const config = await track?.getDecoderConfig();
  if (!track || !config) throw new Error('The take has no picture.');
  const sink = new EncodedPacketSink(track);
  const decoder = new VideoDecoder({
    output: (frame) => frame.close(),
    error: (error) => console.error(error.message),
  });
  decoder.configure({ ...config, optimizeForLatency: true });
  return async (us) => {
    const chunks: EncodedVideoChunk[] = [];
    const key = await sink.getKeyPacket(us / 1e6);
    for (let packet = key; packet && packet.timestamp <= us / 1e6; packet = await sink.getNextPacket(packet))
      chunks.push(packet.toEncodedVideoChunk());
    const from = performance.now();
    for (const chunk of chunks) decoder.decode(chunk);
    await decoder.flush();
    return performance.now() - from;
  };
}

/** A player that was just opened goes to a place of the take where nobody was. @param share of the take, 0…1 */
export async function measureCold(
  takeId: TakeId,
  { durationUs, share, isZoomed = false }: { durationUs: number; share: number; isZoomed?: boolean },
): Promise<{ pictureMs: number; exactMs: number }> {
  const player = await open(takeId, durationUs, isZoomed);
  const times = await seek(player, Math.round(durationUs * share));
  player.close();
  return times;
}

/**
 * Times of seeks in a finished take. Cold: a player that was just opened goes to a place where nobody was. Warm: it goes
 * to and fro within half a second of where it just stood, as somebody does who looks for the right picture.
 * @param isZoomed plays it with zooms that come and go
 */
export async function measurePlayer(
  takeId: TakeId,
  {
    durationUs,
    seeks,
    playS,
    isZoomed = false,
  }: { durationUs: number; seeks: number; playS: number; isZoomed?: boolean },
): Promise<PlayerTimes> {
  const times: PlayerTimes = {
    coldPictureMs: [],
    coldExactMs: [],
    bareExactMs: [],
    warmMs: [],
    due: 0,
    missed: 0,
  };
  const bare = await openBare(takeId);
  for (let i = 0; i < seeks; i++) {
    const share = 0.05 + 0.9 * Math.random();
    const cold = await measureCold(takeId, { durationUs, share, isZoomed });
    times.coldPictureMs.push(cold.pictureMs);
    times.coldExactMs.push(cold.exactMs);
    times.bareExactMs.push(await bare(Math.round(durationUs * share)));
  }
  const player = await open(takeId, durationUs, isZoomed);
  for (let place = 0; place < Math.ceil(seeks / 4); place++) {
    const middleUs = durationUs * (0.1 + 0.8 * Math.random());
    await seek(player, middleUs);
    await new Promise((done) => setTimeout(done, REST_MS));
    for (let i = 0; i < 8; i++) {
      const { exactMs } = await seek(player, Math.round(middleUs + (Math.random() - 0.5) * 1_000_000));
      times.warmMs.push(exactMs);
    }
  }
  await seek(player, 0);
  await player.play();
  await new Promise((done) => setTimeout(done, playS * 1000));
  player.pause();
  const { due, missed } = player.store.getState();
  player.close();
  return { ...times, due, missed };
}
