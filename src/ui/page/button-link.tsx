'use client';

import { Button, type ButtonProps } from 'antd';
import { useRouter } from 'next/navigation';
import type { MouseEvent } from 'react';

/** A link to another page of the studio that looks like a button. The page is asked for when it is followed, as by `PageLink`. */
export function ButtonLink({ href, ...button }: Omit<ButtonProps, 'href' | 'onClick'> & { href: string }) {
  const router = useRouter();
  const follow = (event: MouseEvent) => {
    // Another tab, another window, a download: the browser's own business.
    if (event.ctrlKey || event.metaKey || event.shiftKey || event.altKey || event.defaultPrevented) return;
    event.preventDefault();
    router.push(href);
  };
  return <Button {...button} href={href} onClick={follow} />;
}
