import Link from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to another page of the studio. It is not drawn before somebody follows it: each page shows what the database holds at that
 * moment, and drawing a lesson's five stages in advance, for every page that is opened, was a third of what the server did.
 */
export function PageLink(props: Omit<ComponentProps<typeof Link>, 'prefetch'>) {
  return <Link {...props} prefetch={false} />;
}
