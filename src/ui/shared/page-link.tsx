import Link from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to another page of the studio. It is not drawn before somebody follows it: each page shows what the database holds at that
 * moment, and a lesson's five stages drawn in advance, for every page that is opened, cost the server more than everything else it does.
 */
export function PageLink(props: Omit<ComponentProps<typeof Link>, 'prefetch'>) {
  return <Link {...props} prefetch={false} />;
}
