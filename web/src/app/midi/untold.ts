import * as z from 'zod';
import type { Kept } from '../shown/outbox';
import type { Sent } from './sent';

const KEY = 'hurrel.heard-untold';
const seven = z.number().int().min(0).max(127);
const untoldSchema = z.record(
  z.string(),
  z.array(z.tuple([seven, z.object({ sent: seven, at: z.number() })])),
);

/** What was heard of panels and the server does not know yet, kept on this device: a closed page forgets nothing of it. */
export const untoldOnDevice: Kept<Sent> = {
  read() {
    try {
      const kept = untoldSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
      const panels = kept.success ? Object.entries(kept.data) : [];
      return new Map(panels.map(([panel, sent]) => [panel, new Map(sent)]));
    } catch {
      return new Map();
    }
  },
  write(waiting) {
    try {
      const all = [...waiting].map(([panel, sent]) => [panel, [...sent]] as const);
      if (all.length === 0) localStorage.removeItem(KEY);
      else localStorage.setItem(KEY, JSON.stringify(Object.fromEntries(all)));
    } catch {
      // A device that keeps nothing tells it as long as the page is open.
    }
  },
};
