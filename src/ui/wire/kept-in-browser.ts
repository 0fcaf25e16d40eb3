import { createStore, type StoreApi } from 'zustand/vanilla';

/**
 * A value of this browser, for every page and tab of it. The server's pages begin with what there is without any.
 * @param key in the browser's storage
 * @param read what the text there means; whatever it throws, nothing was kept
 * @param write the text to keep; null keeps nothing
 */
export function keptInBrowser<Value>(
  key: string,
  nothing: Value,
  read: (text: string) => Value,
  write: (value: Value) => string | null,
): StoreApi<{ value: Value }> & { keep: (value: Value) => void } {
  const store = createStore<{ value: Value }>(() => ({ value: nothing }));
  const look = () => {
    const text = localStorage.getItem(key);
    try {
      store.setState({ value: text === null ? nothing : read(text) });
    } catch {
      store.setState({ value: nothing });
    }
  };
  if (typeof window !== 'undefined') {
    look();
    window.addEventListener('storage', (event) => {
      // Without a key all of it was cleared.
      if (event.key === key || event.key === null) look();
    });
  }
  const keep = (value: Value) => {
    const text = write(value);
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
    store.setState({ value });
  };
  return { ...store, keep };
}
