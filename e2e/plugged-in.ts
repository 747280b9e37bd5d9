import type { Page } from '@playwright/test';

/** A panel that is plugged in: what it sends arrives as from the browser's own MIDI. */
export const plugIn = `
  const input = { id: 'one', name: 'Estuary', onmidimessage: null };
  const access = { inputs: new Map([['one', input]]), outputs: new Map(), onstatechange: null };
  Object.defineProperty(navigator, 'requestMIDIAccess', { value: async () => access, configurable: true });
  window.sends = (...data) =>
    input.onmidimessage({ data: new Uint8Array(data), timeStamp: performance.now() });
`;

/** The panel that is plugged in sends messages, all at once. */
export const sends = (page: Page, ...messages: number[][]): Promise<void> =>
  page.evaluate((all) => {
    const { sends } = window as unknown as { sends: (...data: number[]) => void };
    for (const message of all) sends(...message);
  }, messages);
