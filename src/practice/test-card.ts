import { yuvOf, yuvOfHex } from '@/core/image/bt709';
import type { Sprite } from './i420';
import { rounded, sprite, write } from './sprites';
import type { Item } from './stage';
import { cardFrameAt, codeCells, flashBox, flashes } from './test-card-code';

type Area = { width: number; height: number };

const WHITE = yuvOf(255, 255, 255);
const BLACK = yuvOf(0, 0, 0);
const FLASH_DARK = yuvOfHex('#17292b');
const INKS = ['#17292b', '#2f5f9a', '#4d6a22', '#b1452b', '#6b4a8a', '#8a5909'];

/** What the test card shows at a time, bottom first: number cells, flash, small coloured text, a gradient, motion. */
export function cardItems(ms: number, area: Area): Item[] {
  const frame = cardFrameAt(ms);
  const items: Item[] = [{ key: 'card', box: { x: 0, y: 0, ...area }, sprite: ground(area) }];
  codeCells(frame, area).forEach(({ box, white }) => {
    items.push({ key: white ? 'white' : 'black', box, colour: white ? WHITE : BLACK });
  });
  items.push({
    key: `flash ${flashes(frame)}`,
    box: flashBox(area),
    colour: flashes(frame) ? WHITE : FLASH_DARK,
  });
  // A bar that crosses the picture in four seconds: motion that can be seen to stutter.
  const size = 2 * Math.round(area.height / 24);
  const track = area.width - size - 2;
  const x = 2 * Math.round(((frame % 120) / 120) * (track / 2));
  items.push({
    key: 'mover',
    box: { x, y: 2 * Math.round(area.height * 0.36), width: size, height: size },
    sprite: mover(size),
  });
  return items;
}

function mover(size: number): Sprite {
  return sprite(`mover ${size}`, size, size, true, (pen) => {
    pen.fillStyle = '#17625f';
    pen.fillRect(0, 0, size, size);
    rounded(pen, size * 0.25, size * 0.25, size * 0.5, size * 0.5, size * 0.2, '#e3b35a');
  });
}

function ground({ width, height }: Area): Sprite {
  return sprite(`card ${width} ${height}`, width, height, true, (pen) => {
    pen.fillStyle = '#f6f2e9';
    pen.fillRect(0, 0, width, height);
    const blend = pen.createLinearGradient(0, 0, width, 0);
    blend.addColorStop(0, '#24506b');
    blend.addColorStop(1, '#8cc0a8');
    pen.fillStyle = blend;
    pen.fillRect(0, height * 0.15, width, height * 0.17);
    const size = Math.max(12, Math.round(height / 54));
    for (let row = 0; row < 18; row++)
      for (let column = 0; column < 4; column++) {
        const ink = INKS[(row + column * 2) % INKS.length] ?? '';
        const text = `Lot ${1000 + row * 37 + column} sow 2 cm deep, March to May`;
        write(
          pen,
          text,
          width * (0.03 + column * 0.21),
          height * 0.46 + row * height * 0.029,
          size,
          ink,
          row % 3 === 0 ? 650 : 450,
        );
      }
    write(pen, 'Test card', width * 0.86, height * 0.7, size * 1.6, '#17292b', 650);
  });
}
