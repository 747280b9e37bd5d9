import type { Instrument, Section } from '../instrument/schema';
import type { Box } from '../panel/place';
import { boxFor, placed, type Thing } from './hand';
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
  return new Rooms(next, new Set(fresh)).withAll(fresh);
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

/** A section while things find their places in it; boxes count from its corner, so that they go along when it makes way. */
interface Room {
  section: Section;
  boxes: Box[];
  /** Down to where there is no place any more, for things of a size. */
  full: Map<string, number>;
}

/** The sections of a panel, with what stands in them. Places are found for many things at once without making a panel for each. */
class Rooms {
  private readonly rooms = new Map<string, Room>();
  /** How far each thing moves within its section. */
  private readonly ways = new Map<Thing, { x: number; y: number }>();

  /** @param waiting what has no place yet */
  constructor(
    private readonly instrument: Instrument,
    waiting: ReadonlySet<Thing>,
  ) {
    for (const section of instrument.sections)
      this.rooms.set(section.id, { section: { ...section }, boxes: [], full: new Map() });
    const { controls, jacks } = instrument;
    for (const [kind, list] of [['control', controls] as const, ['jack', jacks] as const])
      for (const one of list) {
        const room = this.rooms.get(one.section);
        if (!room || waiting.has(`${kind}:${one.id}`)) continue;
        room.boxes.push(within(room.section, boxFor(kind, one)));
      }
  }

  /** The panel with all of them on the first place that is free in their section, one after the other. */
  withAll(things: readonly Thing[]): Instrument {
    const boxes = new Map<Thing, [section: string, box: Box]>();
    const { controls, jacks } = this.instrument;
    for (const c of controls) boxes.set(`control:${c.id}`, [c.section, boxFor('control', c)]);
    for (const j of jacks) boxes.set(`jack:${j.id}`, [j.section, boxFor('jack', j)]);
    for (const thing of things) {
      const [home, box] = boxes.get(thing)!;
      this.place(thing, this.rooms.get(home)!, within(this.originOf(home), box));
    }
    return this.moved();
  }

  private originOf(id: string): Section {
    return this.instrument.sections.find((s) => s.id === id)!;
  }

  private place(thing: Thing, room: Room, box: Box): void {
    const free = firstFree(room, box) ?? this.grow(room, box);
    this.ways.set(thing, { x: free.x - box.x, y: free.y - box.y });
    room.boxes.push({ ...box, ...free });
  }

  /** No room: the section grows by a row, and whatever lies below or beside it makes way by as much. */
  private grow({ section, full }: Room, box: Box): { x: number; y: number } {
    const { width, height } = section;
    const [foot, side] = [section.y + height, section.x + width];
    const more = Math.ceil(box.height) + GAP;
    const wider = Math.max(width, Math.ceil(box.width) + 2 * GAP);
    for (const { section: other } of this.rooms.values()) {
      if (other === section) continue;
      const [right, below] = [other.x >= side - 1, other.y >= foot - 1];
      if (right) other.x += wider - width;
      if (below) other.y += more;
    }
    section.width = wider;
    section.height = height + more;
    if (wider > width) full.clear();
    return { x: GAP, y: height };
  }

  private moved(): Instrument {
    const ways = new Map<Thing, { x: number; y: number }>();
    for (const was of this.instrument.sections) {
      const { x, y } = this.rooms.get(was.id)!.section;
      ways.set(`section:${was.id}`, { x: x - was.x, y: y - was.y });
    }
    const homes = new Map<Thing, string>();
    for (const c of this.instrument.controls) homes.set(`control:${c.id}`, c.section);
    for (const j of this.instrument.jacks) homes.set(`jack:${j.id}`, j.section);
    for (const [thing, way] of this.ways) {
      const along = ways.get(`section:${homes.get(thing)!}`)!;
      ways.set(thing, { x: way.x + along.x, y: way.y + along.y });
    }
    const sized = this.instrument.sections.map((s) => {
      const { width, height } = this.rooms.get(s.id)!.section;
      return width === s.width && height === s.height ? s : { ...s, width, height };
    });
    return placed({ ...this.instrument, sections: sized }, ways);
  }
}

const within = ({ x, y }: { x: number; y: number }, box: Box): Box => ({
  ...box,
  x: box.x - x,
  y: box.y - y,
});

function firstFree(
  { section, boxes, full }: Room,
  { width, height }: Box,
): { x: number; y: number } | undefined {
  const size = `${width} ${height}`;
  for (let y = full.get(size) ?? HEAD; y + height <= section.height; y += STEP) {
    // What fills a place stays there: above, nothing of this size will be free again.
    full.set(size, y);
    const beside = boxes.filter((b) => b.y < y + height && b.y + b.height > y);
    for (let x = GAP; x + width <= section.width;) {
      const taken = beside.find((other) => overlap(other, { x, y, width, height }));
      if (!taken) return { x, y };
      // On to the first step behind what stands there.
      x += STEP * Math.max(1, Math.ceil((taken.x + taken.width - x) / STEP));
    }
  }
  return undefined;
}
