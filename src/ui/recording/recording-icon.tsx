/** A round stone while something is recorded, two bars while it is paused. */
export const RecordingIcon = ({ paused }: { paused: boolean }) => (
  <svg width="14" height="14" viewBox="0 0 14 14" fill="var(--clay)" aria-hidden="true">
    {paused ? <path d="M2 1h3.500v12H2ZM8.500 1H12v12H8.500Z" /> : <circle cx="7" cy="7" r="6.500" />}
  </svg>
);
