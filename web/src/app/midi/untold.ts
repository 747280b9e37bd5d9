import * as z from 'zod';
import type { Kept } from '../api/outbox';
import type { OnDisk } from '../api/on-disk';
import type { HeardOf } from './sent';

const KEY = 'hurrel.heard-untold';
const seven = z.number().int().min(0).max(127);
const movedSchema = z.array(z.tuple([seven, z.object({ sent: seven, at: z.number() })]));
const program = { program: seven, coarse: seven.exactOptional(), fine: seven.exactOptional() };
const heardSchema = z.union([
  // As it was kept before places of a memory were heard.
  movedSchema.transform((moved) => ({ moved })),
  z.object({
    moved: movedSchema,
    loaded: z.object({ ...program, at: z.number() }).exactOptional(),
  }),
]);
const untoldSchema = z.record(z.string(), heardSchema);

/** What was heard of panels and the server does not know yet, kept on this device: a closed page forgets nothing of it. */
export const untoldOn = (disk: OnDisk): Kept<HeardOf> => ({
  read() {
    try {
      const kept = untoldSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
      const panels = kept.success ? Object.entries(kept.data) : [];
      return new Map(panels.map(([panel, of]) => [panel, { ...of, moved: new Map(of.moved) }]));
    } catch {
      return new Map();
    }
  },
  write(waiting) {
    try {
      const all = [...waiting].map(
        ([panel, of]) => [panel, { ...of, moved: [...of.moved] }] as const,
      );
      if (all.length === 0) disk.remove(KEY);
      else disk.put(KEY, JSON.stringify(Object.fromEntries(all)));
    } catch {
      // A device that keeps nothing tells it as long as the page is open.
    }
  },
});
