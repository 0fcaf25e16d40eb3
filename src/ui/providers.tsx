'use client';

import { createCache, extractStyle, StyleProvider } from '@ant-design/cssinjs';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App, ConfigProvider } from 'antd';
import { useServerInsertedHTML } from 'next/navigation';
import { type PropsWithChildren, useState, useSyncExternalStore } from 'react';
import type { Light } from './look/light';
import { componentTheme } from './look/theme';
import { RecordingBand } from './recording/recording-band';
import { OwnTab } from './wire/own-tab';

type Props = PropsWithChildren<{ nonce: string; light: Light }>;

/** Theme, server data and notices for every page. The nonce lets the component library's styles through the policy. */
export function Providers({ nonce: newest, light, children }: Props) {
  // The document's policy knows the nonce it came with; data fetched later brings others.
  const [nonce] = useState(newest);
  const [cache] = useState(() => createCache());
  const [queries] = useState(
    () => new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false } } }),
  );
  const still = useStill();
  if (typeof document !== 'undefined') allowLibraryStyles(nonce);
  useServerInsertedHTML(() => (
    <style
      id="antd"
      nonce={nonce}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: styles computed by the component library on the server
      dangerouslySetInnerHTML={{ __html: extractStyle(cache, { plain: true, once: true }) }}
    />
  ));
  return (
    <StyleProvider cache={cache}>
      <ConfigProvider theme={componentTheme(light, still)} csp={{ nonce }}>
        <OwnTab />
        <App component={false}>
          <RecordingBand />
          <QueryClientProvider client={queries}>{children}</QueryClientProvider>
        </App>
      </ConfigProvider>
    </StyleProvider>
  );
}

const REDUCED = '(prefers-reduced-motion: reduce)';

/**
 * Whether the system asks for reduced motion. True until the page is hydrated: the component library wraps everything below it when
 * motion is first switched off, which remounts it, and that must not happen in the middle of a recording.
 */
const useStill = (): boolean =>
  useSyncExternalStore(
    (changed) => {
      const asked = matchMedia(REDUCED);
      asked.addEventListener('change', changed);
      return () => asked.removeEventListener('change', changed);
    },
    () => matchMedia(REDUCED).matches,
    () => true,
  );

let allowed = false;

/** A few of the library's styles (measuring a scroll bar, locking the page under a dialog) are made without a nonce. */
function allowLibraryStyles(nonce: string) {
  if (allowed) return;
  allowed = true;
  const make = document.createElement.bind(document);
  document.createElement = ((name: string, options?: ElementCreationOptions) => {
    const element = make(name, options);
    if (name.toLowerCase() === 'style') element.setAttribute('nonce', nonce);
    return element;
  }) as typeof document.createElement;
}
