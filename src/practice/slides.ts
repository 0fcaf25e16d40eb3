import { nearestEven, type Size } from '@/core/base/sizes';
import { type Pen, rounded, sprite, write } from './sprites';
import type { Item } from './stage';

/** Size of the practice slides: shown one to one, as a talk fills a small display. */
export const SLIDES: Size = { width: 1280, height: 720 };

type Slide = { title: string; points: readonly string[]; ground: readonly [string, string]; ink: string };

const TALK: readonly Slide[] = [
  {
    title: 'Keeping seed for ten years',
    points: ['Dry first, then cold', 'Never the other way round', 'Write the lot on the paper, not the jar'],
    ground: ['#17292b', '#2f5a57'],
    ink: '#eef3ec',
  },
  {
    title: 'What the humidity does',
    points: ['8 % of water: ten years', '12 %: three', '15 %: the next spring is too late'],
    ground: ['#fbf7ec', '#e3ead9'],
    ink: '#17292b',
  },
  {
    title: 'Which sorts cross',
    points: ['Squash with squash, over 800 m', 'Kale with every cabbage', 'Beans hardly ever'],
    ground: ['#f3eee0', '#d9c39b'],
    ink: '#3a2a17',
  },
  {
    title: 'Counting what comes up',
    points: ['Ten seeds on wet paper', 'Look on days 4, 7 and 10', 'Below six: grow it this year'],
    ground: ['#24506b', '#8cc0a8'],
    ink: '#ffffff',
  },
  {
    title: 'Before you borrow',
    points: ['Three packets a year', 'Bring back twice the seed', 'Tell us what failed'],
    ground: ['#f6f2e9', '#f6f2e9'],
    ink: '#17292b',
  },
];

/** A slide stands for so long; the talk is a minute. */
const EACH_MS = 12_000;
/** The next slide pushes the one before away over this. */
const PUSH_MS = 500;
/** A point fades in over this, the first one a second after its slide. */
const FADE_MS = 400;
const STEPS = 12;
const ease = (p: number) => (p <= 0 ? 0 : p >= 1 ? 1 : p * p * (3 - 2 * p));
const POINT: Size = { width: 1000, height: 80 };

/** A talk of five slides with pushes, points that fade in, gradients and a small drawing: what a lecture shows. */
export function slideItems(ms: number): Item[] {
  const t = ((ms % 60_000) + 60_000) % 60_000;
  const now = Math.floor(t / EACH_MS);
  const since = t - now * EACH_MS;
  const pushed = ease(since / PUSH_MS);
  const x = nearestEven(SLIDES.width * (1 - pushed));
  const before = (now + TALK.length - 1) % TALK.length;
  return [
    ...(pushed < 1 ? slide(before, EACH_MS, x - SLIDES.width) : []),
    ...slide(now, since, pushed < 1 ? x : 0),
  ];
}

function slide(n: number, since: number, x: number): Item[] {
  const { title, points, ground, ink } = TALK[n] ?? (TALK[0] as Slide);
  const page = sprite(`slide ${n}`, SLIDES.width, SLIDES.height, true, (pen) => {
    const fade = pen.createLinearGradient(0, 0, SLIDES.width, SLIDES.height);
    fade.addColorStop(0, ground[0]);
    fade.addColorStop(1, ground[1]);
    pen.fillStyle = fade;
    pen.fillRect(0, 0, SLIDES.width, SLIDES.height);
    write(pen, title, 90, 150, 60, ink, 650);
    rounded(pen, 90, 180, 220, 8, 4, '#d9a441');
    drawing(pen, n);
    write(pen, `Fernhollow Seed Library    ${n + 1} of ${TALK.length}`, 90, 672, 20, ink);
  });
  const shown = points.flatMap((text, i): Item[] => {
    const step = Math.ceil(STEPS * ease((since - 1000 - i * 2500) / FADE_MS));
    if (step <= 0) return [];
    const drawn = sprite(`point ${n} ${i} ${step}`, POINT.width, POINT.height, false, (pen) => {
      pen.globalAlpha = step / STEPS;
      rounded(pen, 4, 30, 18, 18, 9, '#d9a441');
      write(pen, text, 44, 52, 36, ink);
    });
    return [
      {
        key: `point ${n} ${i} ${step}`,
        box: { x: x + 90, y: 240 + i * 96, ...POINT },
        sprite: drawn,
      },
    ];
  });
  return [{ key: `slide ${n}`, box: { x, y: 0, ...SLIDES }, sprite: page }, ...shown];
}

/** A row of leaves in the corner, more of them on each slide. */
function drawing(pen: Pen, n: number): void {
  for (let leaf = 0; leaf <= n + 2; leaf++) {
    pen.save();
    pen.translate(1180 - leaf * 52, 600);
    pen.rotate(-0.5 + leaf * 0.12);
    pen.beginPath();
    pen.ellipse(0, 0, 18, 46, 0, 0, 2 * Math.PI);
    pen.fillStyle = ['#6f8f3d', '#4d6a22', '#a4583b', '#5c86a3'][leaf % 4] ?? '#6f8f3d';
    pen.fill();
    pen.restore();
  }
}
