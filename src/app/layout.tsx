import './look.css';
import type { Metadata } from 'next';
import { cookies, headers } from 'next/headers';
import type { ReactNode } from 'react';
import { lightOf } from '@/ui/look/light';
import { lookProperties } from '@/ui/look/look';
import { Providers } from '@/ui/providers';

export const metadata: Metadata = {
  title: { default: 'Mellow Otter', template: '%s · Mellow Otter' },
  description: 'A studio for people who teach by recording a screen.',
};

export default async function Layout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? '';
  const light = lightOf((await cookies()).get('light')?.value);
  return (
    <html lang="en" data-light={light} style={lookProperties(light)}>
      <body>
        <Providers nonce={nonce} light={light}>
          {children}
        </Providers>
      </body>
    </html>
  );
}
