import { LARGEST_SHEET } from '../instrument/limits';
import type { Jack } from '../instrument/jack';
import type { Control, Instrument, Section } from '../instrument/schema';
import { type Box, controlBox } from '../panel/place';
import { overlap } from './layout';
import { sheetOf } from './sheet-size';

/** Something on a panel that a hand takes up. */
export type Thing = `section:${string}` | `control:${string}` | `jack:${string}`;

export const FLUSH = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Flush = (typeof FLUSH)[number];
export type Axis = 'x' | 'y';

/** Room that is left at the right and at the bottom of a sheet. */
const MARGIN = 8;
/** Height of a section's name, which nothing in it covers. */
const HEAD = 22;
const LEAST_SECTION = 40;
/** No section ends further: behind the last one a sheet goes on a little. */
const LARGEST = LARGEST_SHEET - 10;

/** What a thing covers on its panel, in panel units; undefined when there is no such thing. */
export function boxOf(instrument: Instrument, thing: Thing): Box | undefined {
  const [kind, id] = split(thing);
  if (kind === 'section') return instrument.sections.find((s) => s.id === id);
  if (kind === 'control') {
    const control = instrument.controls.find((c) => c.id === id);
    return control && controlBox(control);
  }
  const jack = instrument.jacks.find((j) => j.id === id);
  return jack && boxFor('jack', jack);
}

/** The same of what is at hand already. */
export function boxFor(kind: 'control' | 'jack', one: Control | Jack): Box {
  if (kind === 'control') return controlBox(one as Control);
  const { x, y, size } = one.place;
  return { x: x - 24, y: y - size / 2 - 6, width: 48, height: size + 30 };
}

/**
 * Moves things together. What is in a section stays in it and under its name, sections stay on the sheet, which grows to the
 * right and downwards: the whole moves as far as each of them can.
 * @param by panel units
 */
export function moveBy(instrument: Instrument, things: readonly Thing[], by: Vector): Instrument {
  const moving = alone(instrument, things);
  const rooms = moving.map((thing) => roomOf(instrument, thing));
  const dx = within(
    by.x,
    rooms.map((r) => r.x),
  );
  const dy = within(
    by.y,
    rooms.map((r) => r.y),
  );
  if (dx === 0 && dy === 0) return instrument;
  return placed(instrument, new Map(moving.map((thing) => [thing, { x: dx, y: dy }])));
}

/** Brings things to one line, as far as each can go: their edges, or their middles. */
export function align(instrument: Instrument, things: readonly Thing[], edge: Flush): Instrument {
  const all = boxed(instrument, alone(instrument, things));
  if (all.length < 2) return instrument;
  const [axis, share] = LINES[edge];
  const at = ({ box }: { box: Box }): number => lineOf(box, axis, share);
  const lines = all.map(at);
  const goal = share === 0 ? Math.min(...lines) : share === 1 ? Math.max(...lines) : mean(lines);
  return each(instrument, all, axis, (one) => goal - at(one));
}

/** Spaces things evenly between the first and the last of them. */
export function spread(instrument: Instrument, things: readonly Thing[], axis: Axis): Instrument {
  const all = inLine(boxed(instrument, alone(instrument, things)), axis);
  if (all.length < 3) return instrument;
  const [first, last] = [middle(all[0]!.box, axis), middle(all.at(-1)!.box, axis)];
  const step = (last - first) / (all.length - 1);
  const order = new Map(all.map(({ thing }, i) => [thing, i]));
  return each(
    instrument,
    all,
    axis,
    ({ thing, box }) => first + order.get(thing)! * step - middle(box, axis),
  );
}

/** Turns a row round: the first stands where the last stood. */
export function mirror(instrument: Instrument, things: readonly Thing[], axis: Axis): Instrument {
  const all = inLine(boxed(instrument, alone(instrument, things)), axis);
  const middles = all.map(({ box }) => middle(box, axis));
  const order = new Map(all.map(({ thing }, i) => [thing, all.length - 1 - i]));
  return each(
    instrument,
    all,
    axis,
    ({ thing, box }) => middles[order.get(thing)!]! - middle(box, axis),
  );
}

/**
 * Makes a thing as large as is said: controls and jacks by their size, sections by width and height, no smaller than what
 * is in them.
 */
export function resize(
  instrument: Instrument,
  thing: Thing,
  to: { size?: number; width?: number; height?: number },
): Instrument {
  const [kind, id] = split(thing);
  if (kind === 'section') {
    return grown({
      ...arranged(instrument),
      sections: instrument.sections.map((s) => {
        if (s.id !== id) return s;
        const least = contentOf(instrument, s);
        const { width = s.width, height = s.height } = to;
        return {
          ...s,
          width: Math.round(Math.max(width, least.x, LEAST_SECTION)),
          height: Math.round(Math.max(height, least.y, LEAST_SECTION)),
        };
      }),
    });
  }
  const { size } = to;
  if (size === undefined) return instrument;
  const sized = <T extends { id: string; place: { size: number } }>(one: T): T =>
    one.id === id
      ? { ...one, place: { ...one.place, size: Math.round(Math.min(300, Math.max(10, size))) } }
      : one;
  const next: Instrument =
    kind === 'control'
      ? { ...arranged(instrument), controls: instrument.controls.map(sized) }
      : { ...arranged(instrument), jacks: instrument.jacks.map(sized) };
  // What has grown over its section's edge is moved in.
  const room = roomOf(next, thing);
  const into = (r: Range): number => (r.least > 0 ? r.least : r.most < 0 ? r.most : 0);
  const put = placed(next, new Map([[thing, { x: into(room.x), y: into(room.y) }]]));
  // Where it is larger than its section, that grows.
  return resize(put, `section:${homeOf(put, thing)}`, {});
}

/** Pairs of things that lie on each other: controls and jacks of a section, and sections. */
export function covered(instrument: Instrument): [Thing, Thing][] {
  const found: [Thing, Thing][] = [];
  const look = (all: { thing: Thing; box: Box }[]): void =>
    all.forEach((a, i) => {
      for (const b of all.slice(i + 1))
        if (overlap(shrunk(a.box), shrunk(b.box))) found.push([a.thing, b.thing]);
    });
  look(
    boxed(
      instrument,
      instrument.sections.map((s): Thing => `section:${s.id}`),
    ),
  );
  for (const section of instrument.sections)
    look(boxed(instrument, inside(instrument, section.id)));
  return found;
}

interface Vector {
  x: number;
  y: number;
}
interface Range {
  least: number;
  most: number;
}

const LINES: Record<Flush, [Axis, number]> = {
  left: ['x', 0],
  centre: ['x', 0.5],
  right: ['x', 1],
  top: ['y', 0],
  middle: ['y', 0.5],
  bottom: ['y', 1],
};

const split = (thing: Thing): [kind: string, id: string] => {
  const at = thing.indexOf(':');
  return [thing.slice(0, at), thing.slice(at + 1)];
};
const mean = (all: readonly number[]): number => all.reduce((sum, n) => sum + n, 0) / all.length;
const lineOf = (box: Box, axis: Axis, share: number): number =>
  axis === 'x' ? box.x + share * box.width : box.y + share * box.height;
const middle = (box: Box, axis: Axis): number => lineOf(box, axis, 0.5);
const shrunk = ({ x, y, width, height }: Box): Box => ({
  x: x + 2,
  y: y + 2,
  width: width - 4,
  height: height - 4,
});

/** Things that move by themselves: what is in a section that moves too goes with it. */
function alone(instrument: Instrument, things: readonly Thing[]): Thing[] {
  const taken = new Set(things);
  return [...taken].filter((thing) => {
    const [kind, id] = split(thing);
    if (kind === 'section') return true;
    const list: { id: string; section: string }[] =
      kind === 'control' ? instrument.controls : instrument.jacks;
    const one = list.find((o) => o.id === id);
    return one !== undefined && !taken.has(`section:${one.section}`);
  });
}

const boxed = (instrument: Instrument, things: readonly Thing[]): { thing: Thing; box: Box }[] =>
  things.flatMap((thing) => {
    const box = boxOf(instrument, thing);
    return box ? [{ thing, box }] : [];
  });

const inLine = <T extends { box: Box }>(all: readonly T[], axis: Axis): T[] =>
  [...all].sort((a, b) => middle(a.box, axis) - middle(b.box, axis));

/** The section that a control or a jack is in. */
export function homeOf(instrument: Instrument, thing: Thing): string {
  const [kind, id] = split(thing);
  const list: readonly { id: string; section: string }[] =
    kind === 'control' ? instrument.controls : instrument.jacks;
  return list.find((one) => one.id === id)!.section;
}

/** How far a thing can be moved. */
function roomOf(instrument: Instrument, thing: Thing): { x: Range; y: Range } {
  const box = boxOf(instrument, thing)!;
  if (thing.startsWith('section:'))
    return {
      x: { least: -box.x, most: LARGEST - box.x - box.width },
      y: { least: -box.y, most: LARGEST - box.y - box.height },
    };
  const home = homeOf(instrument, thing);
  const s = instrument.sections.find((one) => one.id === home)!;
  return {
    x: { least: s.x - box.x, most: s.x + s.width - box.x - box.width },
    y: { least: s.y + HEAD - box.y, most: s.y + s.height - box.y - box.height },
  };
}

/** As much of a move as all ranges allow; what has no room at all stays. */
function within(by: number, ranges: readonly Range[]): number {
  const least = Math.max(-Infinity, ...ranges.map((r) => Math.min(0, r.least)));
  const most = Math.min(Infinity, ...ranges.map((r) => Math.max(0, r.most)));
  return Math.min(most, Math.max(least, by));
}

/** Moves each thing along an axis by its own way, as far as it can go. */
function each<T extends { thing: Thing }>(
  instrument: Instrument,
  all: readonly T[],
  axis: Axis,
  wayOf: (one: T) => number,
): Instrument {
  const ways = all.map((one): [Thing, Vector] => {
    const way = within(wayOf(one), [roomOf(instrument, one.thing)[axis]]);
    return [one.thing, axis === 'x' ? { x: way, y: 0 } : { x: 0, y: way }];
  });
  return placed(instrument, new Map(ways));
}

const arranged = (instrument: Instrument): Instrument => ({
  ...instrument,
  panel: { ...instrument.panel, arranged: true },
});

/** Things moved as they are told to be, with sections what is in them, and the sheet around all. Places are kept to half units. */
export function placed(instrument: Instrument, ways: ReadonlyMap<Thing, Vector>): Instrument {
  const half = (n: number): number => Math.round(2 * n) / 2;
  const put = <T extends { id: string; section: string; place: Vector }>(
    kind: 'control' | 'jack',
    one: T,
  ): T => {
    const way = ways.get(`${kind}:${one.id}`) ?? ways.get(`section:${one.section}`);
    if (!way || (way.x === 0 && way.y === 0)) return one;
    const { x, y } = one.place;
    return { ...one, place: { ...one.place, x: half(x + way.x), y: half(y + way.y) } };
  };
  return grown({
    ...arranged(instrument),
    sections: instrument.sections.map((s) => {
      const way = ways.get(`section:${s.id}`);
      return way ? { ...s, x: half(s.x + way.x), y: half(s.y + way.y) } : s;
    }),
    controls: instrument.controls.map((c) => put('control', c)),
    jacks: instrument.jacks.map((j) => put('jack', j)),
  });
}

/** The sheet ends behind the last section. */
function grown(instrument: Instrument): Instrument {
  const { sections, panel } = instrument;
  const width = Math.max(120, ...sections.map((s) => Math.ceil(s.x + s.width))) + MARGIN;
  const height = Math.max(80, ...sections.map((s) => Math.ceil(s.y + s.height))) + MARGIN;
  return { ...instrument, panel: sheetOf(panel, width, height) };
}

const inside = (instrument: Instrument, section: string): Thing[] => [
  ...instrument.controls.filter((c) => c.section === section).map((c): Thing => `control:${c.id}`),
  ...instrument.jacks.filter((j) => j.section === section).map((j): Thing => `jack:${j.id}`),
];

/** Width and height that what is in a section needs. */
function contentOf(instrument: Instrument, section: Section): Vector {
  const boxes = boxed(instrument, inside(instrument, section.id)).map(({ box }) => box);
  return {
    x: Math.max(0, ...boxes.map((b) => b.x + b.width - section.x)),
    y: Math.max(HEAD, ...boxes.map((b) => b.y + b.height - section.y)),
  };
}
