/** A figure by its name; inside a list of figures. */
export function Figure({ name, value, strong = false }: { name: string; value: string; strong?: boolean }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd className={strong ? 'fig' : undefined}>{value}</dd>
    </div>
  );
}
