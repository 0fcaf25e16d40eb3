/** From an event to the frame in which what it changes is painted; the times gather in `__paints`. For `page.evaluate`. */
export const watchPaints = (selector: string, event: string): string => `
  window.__paints = [];
  document.querySelector('${selector}').addEventListener('${event}', () => {
    const began = performance.now();
    requestAnimationFrame(() => {
      const channel = new MessageChannel();
      channel.port1.onmessage = () => window.__paints.push(performance.now() - began);
      channel.port2.postMessage(null);
    });
  }, true);
`;

/** The times so far, ms. For `page.evaluate`. */
export const PAINTS = 'window.__paints';
