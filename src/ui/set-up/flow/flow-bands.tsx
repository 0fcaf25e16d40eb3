import { COLOURS, type FlowShape } from './flow-shape';

/** The bands themselves: raw, narrowing to what is encoded, and around an estimate the widest that it may come to. */
export function FlowBands({ shape, width, height }: { shape: FlowShape; width: number; height: number }) {
  return (
    <svg className="over" width={width} height={height} aria-hidden="true">
      <defs>
        {Object.entries(COLOURS).map(([kind, colour]) => (
          <linearGradient key={kind} id={`narrow-${kind}`}>
            <stop offset="0.86" stopColor={`var(--${colour}-soft)`} />
            <stop offset="1" stopColor={`var(--${colour})`} />
          </linearGradient>
        ))}
      </defs>
      {shape.bands.map(({ kind, raw, encoded, widest }) => (
        <g key={kind}>
          {widest && <path d={widest} fill={`var(--${COLOURS[kind]})`} opacity="0.16" />}
          <path d={raw} fill={`url(#narrow-${kind})`} />
          <path d={encoded} fill={`var(--${COLOURS[kind]})`} />
        </g>
      ))}
    </svg>
  );
}
