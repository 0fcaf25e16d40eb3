import type { RuleResult } from '@/core/rules';

/** Every rule of a place with what was measured in the finished file. Those that are not met come first. */
export function RulesList({ rules }: { rules: readonly RuleResult[] }) {
  const sorted = [...rules].sort((a, b) => Number(a.met) - Number(b.met));
  return (
    <table className="rules">
      <thead>
        <tr>
          <th scope="col">Rule</th>
          <th scope="col">Measured</th>
          <th scope="col">Allowed</th>
        </tr>
      </thead>
      <tbody>
        {sorted.map(({ rule, name, measured, allowed, met, remedy }) => (
          <tr key={rule} className={met ? 'met' : 'broken'}>
            <th scope="row">
              <RuleSign met={met} /> {name}
            </th>
            <td className="fig">{withMinus(measured)}</td>
            <td>
              {withMinus(allowed)}
              {!met && <span className="remedy">{remedy}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A hyphen before a figure is a minus. */
const withMinus = (text: string) => text.replace(/(^|\s)-(?=\d)/g, '$1−');

/** A round stone for a rule that is met, a square one for a broken one. */
function RuleSign({ met }: { met: boolean }) {
  return (
    <svg
      width="15"
      height="15"
      viewBox="0 0 16 16"
      fill="none"
      strokeWidth="2"
      role="img"
      aria-label={met ? 'met' : 'not met'}
    >
      {met ? (
        <>
          <circle cx="8" cy="8" r="7" fill="var(--river)" />
          <path d="M4.500 8.300l2.400 2.400 4.400-5" stroke="var(--on-river)" />
        </>
      ) : (
        <>
          <path d="M5 1h6l4 4v6l-4 4H5l-4-4V5Z" fill="var(--clay)" />
          <path d="M8 4.500v4.500M8 11.500v.2" stroke="var(--on-clay)" />
        </>
      )}
    </svg>
  );
}
