import { frameTimeUs } from '../base/rational';
import { type Rect, type Size, sameSize } from '../base/sizes';
import type { PictureInput } from '../deliver/take-sources';
import { arrange, GROUND } from '../layout/layout';
import { during, fills, type Growing, onGrid, open, overlay, plane, toTheEnd } from './growing';
import { screenEffects } from './screen-effects';

/** A camera that is not there for so long is a picture that came late, as the player takes it. */
const SHORT_ABSENCE_US = 100_000;
export const GROUND_COLOUR = GROUND.replace('#', '0x');

/** Writes a screen's chains with the effects of its step. @returns the last one, without a label */
function seen(graph: Growing, screen: PictureInput, name: string): string {
  // Effects change over time, so the last frame is repeated before them.
  const from = `[${open(graph, screen)}:v]${onGrid(graph)},${toTheEnd(graph)}`;
  const chains = screenEffects(from, graph.shot, screen.size, `${graph.tag}${name}`);
  const last = chains.pop() ?? from;
  graph.chains.push(...chains);
  return last;
}

/** The screens beside or under the camera, on the ground where they leave some of it free. */
export function drawScreens(graph: Growing, place: Rect | null, camera: Size | null): void {
  const { shot, chains, size, tag } = graph;
  const onGround = !fills(place, size);
  if (onGround || shot.screens.length === 0)
    chains.push(`${plane(shot, size, GROUND_COLOUR, 'yuv420p')}[${tag}ground]`);
  if (!place) return;
  for (const [i, screen] of shot.screens.entries()) {
    const at = arrange(size, screen.size, camera, shot.layout).screen ?? place;
    const scale = sameSize(at, screen.size) ? '' : `,scale=${at.width}:${at.height}:flags=bicubic`;
    const chain = `${seen(graph, screen, `screen${i}`)}${scale}`;
    // The first one is the ground itself where it fills the picture.
    if (i === 0 && !onGround) {
      graph.last = `${tag}screen0`;
      chains.push(`${chain}[${graph.last}]`);
      continue;
    }
    chains.push(`${chain}[${tag}part${i}]`);
    const enabled = i === 0 ? '' : `:enable='${during(graph, screen)}'`;
    overlay(graph, `${tag}part${i}`, at, `repeat${enabled}`, `${tag}screen${i}`);
  }
}

/** While there is no camera the screen is shown as if there were none, as in the player. */
export function drawScreensAlone(graph: Growing): void {
  const { shot, chains, size, tag } = graph;
  const away = whenAway(graph);
  if (!away) return;
  for (const [i, screen] of shot.screens.entries()) {
    const at = arrange(size, screen.size, null, shot.layout).screen;
    if (!at) continue;
    const box = `${size.width}:${size.height}:${at.x}:${at.y}:${GROUND_COLOUR}`;
    const whole = `scale=${at.width}:${at.height}:flags=bicubic,pad=${box}`;
    chains.push(`${seen(graph, screen, `alone${i}`)},${whole}[${tag}alone${i}]`);
    const also = i === 0 ? '' : `*${during(graph, screen)}`;
    overlay(graph, `${tag}alone${i}`, { x: 0, y: 0 }, `repeat:enable='${away}${also}'`, `${tag}whole${i}`);
  }
}

/** When no camera is there, as an expression; null when there always is one. */
function whenAway(graph: Growing): string | null {
  const { cameras, originUs, speed, frames, rate } = graph.shot;
  if (speed === 0) return null;
  const present = [...cameras].sort((a, b) => a.startUs - b.startUs);
  const ends = [originUs, ...present.map(({ endUs }) => endUs)];
  const starts = [...present.map(({ startUs }) => startUs), originUs + frameTimeUs(frames, rate) * speed];
  const gap = starts.some((startUs, i) => startUs - (ends[i] ?? startUs) > SHORT_ABSENCE_US);
  return gap ? `not(${present.map((camera) => during(graph, camera)).join('+')})` : null;
}
