import type { Instrument, Section } from '../instrument/schema';
import { type Box } from '../panel/place';
import { boxOf, homeOf, placed, type Thing } from './hand';
import { overlap } from './layout';

/** Room between things that find a place of their own. */
const GAP = 8;
const HEAD = 26;
const STEP = 8;

/**
 * A panel that was arranged by hand, described anew: what was there stays where it was put; what is new in a section takes
 * the first place that is free in it, or the section grows and what lies below it makes way; new sections stand below.
 */
export function placedByHand(now: Instrument, before: Instrument): Instrument {
  const was = new Map(before.sections.map((s) => [s.id, s]));
  let next: Instrument = {
    ...now,
    panel: before.panel,
    sections: now.sections.map((s) => {
      const old = was.get(s.id);
      return old ? { ...s, x: old.x, y: old.y, width: old.width, height: old.height } : s;
    }),
  };
  const fresh: Thing[] = [];
  const stay = <T extends { id: string; section: string; place: { x: number; y: number } }>(
    kind: 'control' | 'jack',
    list: readonly T[],
    old: readonly T[],
  ): T[] => {
    const places = new Map(old.map((one) => [one.id, one]));
    return list.map((one) => {
      const known = places.get(one.id);
      if (known?.section === one.section) {
        const { x, y } = known.place;
        return { ...one, place: { ...one.place, ...known.place, x, y } };
      }
      if (was.has(one.section)) fresh.push(`${kind}:${one.id}`);
      return one;
    });
  };
  next = {
    ...next,
    controls: stay('control', next.controls, before.controls),
    jacks: stay('jack', next.jacks, before.jacks),
  };
  next = below(
    next,
    now.sections.filter((s) => !was.has(s.id)).map((s) => s.id),
  );
  const waiting = new Set(fresh);
  for (const thing of fresh) next = withRoomFor(next, thing, waiting);
  return placed(next, new Map());
}

/** New sections, as they were laid out, in a row under all others. */
function below(instrument: Instrument, ids: readonly string[]): Instrument {
  const isNew = new Set(ids);
  const foot = Math.max(
    0,
    ...instrument.sections.filter((s) => !isNew.has(s.id)).map((s) => s.y + s.height),
  );
  let x = GAP;
  let next = instrument;
  for (const id of ids) {
    const section = next.sections.find((s) => s.id === id)!;
    const way = { x: x - section.x, y: foot + GAP - section.y };
    next = placed(next, new Map([[`section:${id}` as const, way]]));
    x += section.width + GAP;
  }
  return next;
}

/** Puts a thing on the first free place of its section. */
function withRoomFor(instrument: Instrument, thing: Thing, waiting: Set<Thing>): Instrument {
  const home = homeOf(instrument, thing);
  const section = instrument.sections.find((s) => s.id === home)!;
  const box = boxOf(instrument, thing)!;
  const others = [
    ...instrument.controls.filter((c) => c.section === home).map((c): Thing => `control:${c.id}`),
    ...instrument.jacks.filter((j) => j.section === home).map((j): Thing => `jack:${j.id}`),
  ]
    .filter((other) => !waiting.has(other))
    .flatMap((other) => boxOf(instrument, other) ?? []);
  waiting.delete(thing);
  const free = firstFree(section, box, others);
  if (free) return placed(instrument, new Map([[thing, { x: free.x - box.x, y: free.y - box.y }]]));
  // No room: the section grows by a row, and whatever lies below or beside it makes way by as much.
  const foot = section.y + section.height;
  const side = section.x + section.width;
  const more = Math.ceil(box.height) + GAP;
  const wider = Math.max(section.width, Math.ceil(box.width) + 2 * GAP);
  const ways = instrument.sections.flatMap((s): [Thing, { x: number; y: number }][] => {
    if (s.id === home) return [];
    const way = { x: s.x >= side - 1 ? wider - section.width : 0, y: s.y >= foot - 1 ? more : 0 };
    return [[`section:${s.id}`, way]];
  });
  const down = placed(instrument, new Map(ways));
  const roomy = {
    ...down,
    sections: down.sections.map((s) =>
      s.id === home ? { ...s, width: wider, height: s.height + more } : s,
    ),
  };
  return placed(roomy, new Map([[thing, { x: section.x + GAP - box.x, y: foot - box.y }]]));
}

function firstFree(
  section: Section,
  { width, height }: Box,
  others: readonly Box[],
): { x: number; y: number } | undefined {
  const [right, bottom] = [section.x + section.width, section.y + section.height];
  for (let y = section.y + HEAD; y + height <= bottom; y += STEP) {
    for (let x = section.x + GAP; x + width <= right; x += STEP) {
      if (!others.some((other) => overlap(other, { x, y, width, height }))) return { x, y };
    }
  }
  return undefined;
}
