import { scaleLinear } from 'd3-scale';
import type { StageTimes as Times } from '@/core/rehearsal/figures';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';

const WIDTH = 930;
const LEFT = 118;
const PARTS = [
  { key: 'compose', name: 'compositing', fill: 'var(--river-soft)', ink: 'var(--ink)' },
  { key: 'encode', name: 'encoder', fill: 'var(--river)', ink: 'var(--on-river)' },
] as const;

const text = (ms: number) => `${ms.toFixed(ms < 10 ? 1 : 0)} ms`;

/** What each stage spends on a frame while little and while much changes, beside the time that there is. */
export function StageTimes({ of: { figures } }: { of: RehearsalView }) {
  const rows = (
    [
      ['Small changes', figures.idle],
      ['Large changes', figures.busy],
    ] as const
  ).flatMap(([name, times]) => (times ? [{ name, times }] : []));
  if (rows.length === 0) return null;
  const budget = 1000 / figures.targetFps;
  const most = Math.max(budget, ...rows.map(({ times }) => times.compose + times.encode)) * 1.12;
  const x = scaleLinear([0, most], [LEFT, WIDTH]);
  return (
    <svg
      className="stage-times"
      viewBox={`0 0 ${WIDTH} ${rows.length * 40 + 24}`}
      role="img"
      aria-label={rows.map(({ name, times }) => `${name}: ${spoken(times, budget)}`).join('; ')}
    >
      {rows.map(({ name, times }, n) => (
        <Row key={name} name={name} times={times} y={n * 40 + 6} x={x} budget={budget} />
      ))}
      <path
        d={`M${x(budget)} 0V${rows.length * 40 + 6}`}
        stroke="var(--ink)"
        strokeWidth="1.500"
        strokeDasharray="6 4"
      />
      <text x={x(budget)} y={rows.length * 40 + 20} textAnchor="middle" className="strong">
        frame budget, {text(budget)}
      </text>
      {/* At the side where the budget does not stand. */}
      <text
        x={x(budget) > WIDTH / 2 ? LEFT : WIDTH}
        y={rows.length * 40 + 20}
        textAnchor={x(budget) > WIDTH / 2 ? 'start' : 'end'}
      >
        median time spent on one frame
      </text>
    </svg>
  );
}

const spoken = ({ compose, encode }: Times, budget: number) =>
  `compositing ${text(compose)}, encoder ${text(encode)}, budget ${text(budget)}`;

type RowProps = {
  name: string;
  times: Times;
  y: number;
  x: (ms: number) => number;
  budget: number;
};

function Row({ name, times, y, x, budget }: RowProps) {
  const sum = times.compose + times.encode;
  const over = sum - budget;
  let from = 0;
  const parts = PARTS.map((part) => {
    const at = from;
    from += times[part.key];
    return { ...part, at, to: Math.min(from, Math.max(at, budget)) };
  });
  const rest =
    over > 0
      ? `${text(over)} over budget`
      : `${text(sum)}, ${Math.round((100 * -over) / budget)} % of the budget left`;
  // A label stands inside what is long enough for it, and never across the budget's line.
  const place =
    over > 0
      ? x(sum) - x(budget) > 130
        ? ({ x: x(budget) + 12, textAnchor: 'start', fill: 'var(--on-river)' } as const)
        : ({ x: x(budget) - 12, textAnchor: 'end', fill: 'var(--on-river)' } as const)
      : x(budget) - x(sum) > 230
        ? ({ x: x(sum) + 12, textAnchor: 'start', fill: 'var(--ink)' } as const)
        : ({ x: x(sum) - 12, textAnchor: 'end', fill: 'var(--on-river)' } as const);
  return (
    <>
      <text x="0" y={y + 19} className="strong">
        {name}
      </text>
      {parts.map((part) => (
        <rect
          key={part.key}
          x={x(part.at)}
          y={y}
          width={Math.max(0, x(part.to) - x(part.at))}
          height="28"
          rx="6"
          fill={part.fill}
        />
      ))}
      {over > 0 && (
        <rect x={x(budget)} y={y} width={x(sum) - x(budget)} height="28" rx="6" fill="var(--clay)" />
      )}
      {parts.map(
        (part) =>
          x(part.to) - x(part.at) > 110 && (
            <text key={part.key} x={x(part.at) + 12} y={y + 19} className="strong" style={{ fill: part.ink }}>
              {part.name} {text(times[part.key])}
            </text>
          ),
      )}
      <text {...place} y={y + 19} className="strong" style={{ fill: place.fill }}>
        {rest}
      </text>
    </>
  );
}
