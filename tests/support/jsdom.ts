import { vi } from 'vitest';

/** What the component library asks of a browser, and jsdom has not. */
export function completeBrowser(): void {
  const nothing = () => undefined;
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    ...{
      addListener: nothing,
      removeListener: nothing,
      addEventListener: nothing,
      removeEventListener: nothing,
    },
  }));
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe = nothing;
      unobserve = nothing;
      disconnect = nothing;
    },
  );
  const styleOf = window.getComputedStyle.bind(window);
  // It knows no styles of pseudo-elements, and says so each time.
  vi.stubGlobal('getComputedStyle', (element: Element) => styleOf(element));
}
