import { LARGEST_SHEET } from '../instrument/limits';
import type { Instrument } from '../instrument/schema';
import { placed, type Thing } from './hand';
import { NO_ROOM, retyped, withLinesIn } from './lines';
import { outlineOf } from './outline-of';
import { writeControl, writeJack } from './write';

/**
 * The instrument with copies of things, with all that is printed on them: a section with everything in it, laid out the same,
 * controls and jacks beside their own. A copy turns nothing yet: a parameter of the circuit has one control.
 * @returns the instrument, and the copies
 * @throws Error when the panel has no room for so many
 */
export function copied(
  instrument: Instrument,
  things: readonly Thing[],
): { instrument: Instrument; copies: Thing[] } {
  const said = outlineOf(instrument);
  const sections = new Set(things.filter((t) => t.startsWith('section:')).map(idOf));
  let now = instrument;
  const copies: Thing[] = [];
  for (const id of sections) {
    const original = now.sections.find((s) => s.id === id);
    if (!original) continue;
    const name = numbered(
      original.name,
      now.sections.map((s) => s.name),
    );
    const text = `${(now.outline ?? '').trimEnd()}\n\n${name}: as ${original.name}\n`;
    now = likeIts(retyped(now, text), id);
    if (now.panel.width > LARGEST_SHEET || now.panel.height > LARGEST_SHEET)
      throw new Error(NO_ROOM);
    copies.push(`section:${now.sections.at(-1)!.id}`);
  }
  for (const thing of things) {
    const id = idOf(thing);
    const kind = thing.startsWith('control:') ? 'controls' : 'jacks';
    const one = [...instrument[kind]].find((o) => o.id === id);
    if (thing.startsWith('section:') || !one || sections.has(one.section)) continue;
    const home = now.sections.find((s) => s.id === one.section)!;
    const there = now[kind].filter((o) => o.section === home.id).map((o) => o.name);
    const name = numbered(one.name, there);
    const index = instrument.sections.findIndex((s) => s.id === home.id);
    const [words] = [
      // What is copied sends a number of its own, that nobody knows yet.
      ...said.sections[index]!.controls.map(({ cc: _, ...c }) => ({
        of: c.name,
        line: writeControl({ ...c, name }),
      })),
      ...said.sections[index]!.jacks.map((j) => ({ of: j.name, line: writeJack({ ...j, name }) })),
    ].filter((w) => w.of === one.name);
    const text = words && withLinesIn(now.outline ?? '', home.name, [words.line]);
    if (text === undefined) continue;
    const before = new Set(now[kind].map((o) => o.id));
    now = retyped(now, text);
    const made = now[kind].find((o) => !before.has(o.id));
    if (!made) continue;
    now = sized(now, kind, made.id, one.place.size);
    copies.push(`${kind === 'controls' ? 'control' : 'jack'}:${made.id}`);
  }
  return { instrument: now, copies };
}

const idOf = (thing: Thing): string => thing.slice(thing.indexOf(':') + 1);

/** A name with the first number behind it that is free: `Oscillator 1` becomes `Oscillator 3` where there is a second. */
export function numbered(name: string, taken: readonly string[]): string {
  const [, word = name, number] = /^(.*\S)\s+(\d+)$/.exec(name) ?? [];
  const all = new Set(taken.map((t) => t.toLowerCase()));
  for (let n = number === undefined ? 2 : Number(number) + 1; ; n++)
    if (!all.has(`${word} ${n}`.toLowerCase())) return `${word} ${n}`;
}

/** The last section laid out as the one it was copied from, under all others. */
function likeIts(instrument: Instrument, original: string): Instrument {
  const model = instrument.sections.find((s) => s.id === original)!;
  const copy = instrument.sections.at(-1)!;
  const way = { x: copy.x - model.x, y: copy.y - model.y };
  const like = <T extends { section: string; place: { x: number; y: number; size: number } }>(
    list: readonly T[],
  ): T[] => {
    const models = list.filter((o) => o.section === original);
    let n = 0;
    return list.map((one) => {
      const from = one.section === copy.id ? models[n++] : undefined;
      if (!from) return one;
      const { x, y, size } = from.place;
      return { ...one, place: { ...one.place, x: x + way.x, y: y + way.y, size } };
    });
  };
  const { width, height } = model;
  const next = {
    ...instrument,
    sections: instrument.sections.map((s) => (s.id === copy.id ? { ...s, width, height } : s)),
    controls: like(instrument.controls),
    jacks: like(instrument.jacks),
  };
  return placed(next, new Map());
}

function sized(
  instrument: Instrument,
  kind: 'controls' | 'jacks',
  id: string,
  size: number,
): Instrument {
  const list = instrument[kind] as { id: string; place: { size: number } }[];
  return {
    ...instrument,
    [kind]: list.map((o) => (o.id === id ? { ...o, place: { ...o.place, size } } : o)),
  } as Instrument;
}
