import { STAGES, type Stage } from '@/core/views/lesson';
import { PageLink } from './page-link';

/** Corners of an uneven pebble: a superellipse with seeded wobble, so that each stone keeps its own shape. */
function corners(width: number, height: number, seed: number, count = 9): [number, number][] {
  const wobble = (k: number) => {
    const v = Math.sin(k * 127.1 + 11.7) * 43758.5453;
    return v - Math.floor(v);
  };
  const power = (v: number) => Math.sign(v) * Math.abs(v) ** 0.55;
  return Array.from({ length: count }, (_, i) => {
    const angle = -Math.PI / 2 + ((i + 0.5 * wobble(seed + i)) * 2 * Math.PI) / count;
    const reach = 0.93 + 0.09 * wobble(seed * 3 + i);
    return [(power(Math.cos(angle)) * width * reach) / 2, (power(Math.sin(angle)) * height * reach) / 2];
  });
}

/** A closed path through the corners, each softened by a curve. */
function softened(points: [number, number][], t = 0.28): string {
  const at = (i: number) => points[(i + points.length) % points.length] ?? [0, 0];
  const parts = points.map(([x, y], i) => {
    const toward = ([mx, my]: [number, number]) =>
      `${(x + (mx - x) * t).toFixed(1)} ${(y + (my - y) * t).toFixed(1)}`;
    return `${i ? 'L' : 'M'}${toward(at(i - 1))} Q${x.toFixed(1)} ${y.toFixed(1)} ${toward(at(i + 1))}`;
  });
  return `${parts.join(' ')}Z`;
}

/** Each stone is as wide as its name needs. */
const WIDTHS: Record<Stage, number> = { 'set-up': 92, rehearse: 108, record: 96, edit: 78, 'hand-over': 116 };

type StoneState = 'done' | 'now' | 'ahead';

/** One stone, drawn around 0,0: reached ones have weight, the present one is dark, those ahead are outlines. */
function Stone({
  width,
  height,
  state,
  seed,
}: {
  width: number;
  height: number;
  state: StoneState;
  seed: number;
}) {
  const points = corners(width, height, seed);
  const outline = softened(points);
  if (state === 'ahead')
    return <path d={outline} fill="none" stroke="var(--ink-3)" strokeWidth="1.5" strokeDasharray="3.5 3.5" />;
  const now = state === 'now';
  const lit = softened(points.map(([x, y]) => [x * 0.84 - width * 0.01, y * 0.6 - height * 0.1]));
  return (
    <>
      <ellipse
        cx="2"
        cy={height / 2}
        rx={width * 0.46}
        ry={height * 0.13}
        fill="var(--shade)"
        opacity={now ? 0.3 : 0.17}
      />
      <path d={outline} fill={now ? 'var(--river-strong)' : 'var(--river-soft)'} />
      <path d={lit} fill={now ? 'var(--river)' : 'var(--surface)'} opacity={now ? 1 : 0.55} />
      <path d={outline} fill="none" stroke={now ? 'var(--river-strong)' : 'var(--river)'} strokeWidth="1.4" />
    </>
  );
}

const Ripple = ({ x, y, width }: { x: number; y: number; width: number }) => (
  <path
    d={`M${x} ${y}q${width / 4}-4 ${width / 2} 0t${width / 2} 0`}
    fill="none"
    stroke="var(--river)"
    strokeWidth="1.8"
    strokeLinecap="round"
  />
);

const stateOf = (index: number, present: number): StoneState =>
  index < present ? 'done' : index === present ? 'now' : 'ahead';

/** The five stages of a lesson as a row of stepping stones; each is a link, and ticked when it has left something. */
export function SteppingStones(props: {
  lesson: { id: string; stage: Stage; done: readonly Stage[] };
  here: Stage;
}) {
  const { lesson, here } = props;
  const reached = STAGES.findIndex((s) => s.key === lesson.stage);
  const present = STAGES.findIndex((s) => s.key === here);
  return (
    <nav className="stones" aria-label="Stages of the lesson">
      {STAGES.map(({ key, name }, i) => {
        const width = WIDTHS[key];
        // A stage that was skipped on the way here counts as passed.
        const state = key === here ? 'now' : i <= reached || i < present ? 'done' : 'ahead';
        const ticked = lesson.done.includes(key);
        return (
          <PageLink
            key={key}
            href={`/lessons/${lesson.id}/${key}`}
            className={`stone ${state}`}
            aria-current={key === here ? 'step' : undefined}
          >
            <svg
              width={width + 14}
              height="56"
              viewBox={`${-width / 2 - 7} -28 ${width + 14} 56`}
              aria-hidden="true"
            >
              <Stone
                width={width}
                height={state === 'now' ? 44 : state === 'done' ? 40 : 34}
                state={state}
                seed={i + 3}
              />
              {ticked && (
                <g transform={`translate(${width / 2 - 5} -18)`}>
                  <circle r="8" fill="var(--river)" stroke="var(--paper)" strokeWidth="2" />
                  <path
                    d="M-3.5 .2L-1 2.8 3.6-2.6"
                    fill="none"
                    stroke="var(--on-river)"
                    strokeWidth="2"
                    strokeLinecap="round"
                  />
                </g>
              )}
              {i > 0 && <Ripple x={-width / 2 - 7} y={8} width={8} />}
            </svg>
            <span>{name}</span>
            {ticked && <span className="sr-only"> (done)</span>}
          </PageLink>
        );
      })}
    </nav>
  );
}

/** The same stones, small and without words. */
export function SmallStones({
  lesson: { stage, done },
}: {
  lesson: { stage: Stage; done: readonly Stage[] };
}) {
  const present = STAGES.findIndex((s) => s.key === stage);
  const name = STAGES[present]?.name ?? '';
  return (
    <svg
      width="166"
      height="26"
      viewBox="0 0 166 26"
      role="img"
      aria-label={`Stage ${present + 1} of 5: ${name}`}
    >
      {STAGES.map(({ key }, i) => {
        const state = stateOf(i, present);
        const [width, height] = state === 'now' ? [29, 21] : state === 'done' ? [24, 17] : [24, 13];
        return (
          <g key={key} transform={`translate(${16 + i * 33} 13)`}>
            <Stone width={width} height={height} state={state} seed={i + 3} />
            {done.includes(key) && (
              <path
                d="M-4 0l3 3 5.5-6"
                fill="none"
                stroke={state === 'now' ? 'var(--on-river)' : 'var(--river-strong)'}
                strokeWidth="2"
                strokeLinecap="round"
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}
