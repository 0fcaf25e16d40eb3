import type { ReactNode } from 'react';
import { KeysButton } from '../keys/keys-button';
import type { Light } from '../look/light';
import { LightSwitch } from './light-switch';
import { PageLink } from './page-link';

/** An otter that floats on its back: round head with an ear, paws folded on the belly, the tail out of the water. */
export function Mark() {
  return (
    <svg
      width="48"
      height="30"
      viewBox="0 0 48 30"
      fill="none"
      strokeWidth="2.3"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      <path stroke="var(--ink)" d="M13.800 17.200A6.400 6.400 0 1 1 16.400 8.600" />
      <path stroke="var(--ink)" d="M6.200 5.600Q5.200 3.200 7.600 3.400" />
      <path
        stroke="var(--ink)"
        d="M16.400 8.600Q19 12.800 22 12.600q1-3.200 3.400-1.600 1.200-2.400 3.400-.2 5 .8 8.600 3.600 3.600 2.200 7.600-3.400"
      />
      <path stroke="var(--ink)" d="M8.800 10.400q1.200 1 2.400 0M12.600 14.200q1.600.4 2.800-.8" />
      <path stroke="var(--river)" d="M2 20.500q3.700-3 7.300 0t7.300 0 7.300 0 7.300 0 7.300 0 7.300 0" />
      <path stroke="var(--river)" d="M11 26q3.200-2.600 6.400 0t6.400 0 6.400 0" />
    </svg>
  );
}

/** The head of every page. */
export function Bank({ title, light, children }: { title?: ReactNode; light: Light; children?: ReactNode }) {
  return (
    <header className="bank row">
      <PageLink href="/" className="home" aria-label="Mellow Otter: all lessons">
        <Mark />
        {!title && <span>Mellow Otter</span>}
      </PageLink>
      {title}
      <span className="grow" />
      {children}
      <KeysButton />
      <LightSwitch light={light} />
    </header>
  );
}
