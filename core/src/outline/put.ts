import { LARGEST_SHEET } from '../instrument/limits';
import type { Instrument } from '../instrument/schema';
import { boxOf, placed, type Thing } from './hand';
import { retyped, withLinesIn } from './lines';

/** Room that a section keeps around what is put in it. */
const ROOM = 8;
const HEAD = 26;

/**
 * The instrument with one more line of its outline, and what the line says at a point of the sheet: a control or a jack in the
 * section that is there, or the nearest one, which grows to hold it; with a colon behind it a section, with its upper left
 * corner there.
 * @param line as in an outline: `cutoff 0..10`, `< in`, `Filter:`
 * @param at panel units
 * @returns the instrument, and what is new
 * @throws Error when the line is not understood, or there is no section for it yet
 */
export function putAt(
  instrument: Instrument,
  line: string,
  at: { x: number; y: number },
): { instrument: Instrument; put: Thing } {
  const text = instrument.outline ?? '';
  const isSection = /^[^<>+].*:\s*([a-z-]*|as\s.+)$/i.test(line.trim());
  const home = isSection ? undefined : sectionNear(instrument, at);
  if (!isSection && !home)
    throw new Error('There is no section yet: put one first, with a colon behind its name.');
  const typed = home
    ? withLinesIn(text, home.name, [line.trim()])
    : `${text.trimEnd()}\n\n${line.trim()}\n`;
  if (typed === undefined) throw new Error(`The outline has no section "${home!.name}".`);
  const now = retyped(instrument, typed);
  const fresh = newIn(instrument, now, isSection);
  if (!fresh) throw new Error('Nothing new came of it: is it there already?');
  if (isSection) {
    const section = now.sections.at(-1)!;
    const inside = (to: number, size: number): number =>
      Math.max(0, Math.min(to, LARGEST_SHEET - 10 - size));
    const way = {
      x: inside(at.x, section.width) - section.x,
      y: inside(at.y, section.height) - section.y,
    };
    return { instrument: placed(now, new Map([[fresh, way]])), put: fresh };
  }
  return { instrument: moved(now, fresh, at), put: fresh };
}

function sectionNear(instrument: Instrument, { x, y }: { x: number; y: number }) {
  const away = (s: Instrument['sections'][number]): number =>
    Math.hypot(Math.max(s.x - x, 0, x - s.x - s.width), Math.max(s.y - y, 0, y - s.y - s.height));
  return [...instrument.sections].sort((a, b) => away(a) - away(b))[0];
}

function newIn(before: Instrument, now: Instrument, section: boolean): Thing | undefined {
  const fresh = (kind: 'sections' | 'controls' | 'jacks'): string | undefined => {
    const known = new Set(before[kind].map((o) => o.id));
    return now[kind].find((o) => !known.has(o.id))?.id;
  };
  if (section) {
    const id = fresh('sections');
    return id === undefined ? undefined : `section:${id}`;
  }
  const [control, jack] = [fresh('controls'), fresh('jacks')];
  if (control !== undefined) return `control:${control}`;
  return jack === undefined ? undefined : `jack:${jack}`;
}

/** A coordinate around which there is room on any sheet. */
const within = (n: number): number => Math.round(Math.min(LARGEST_SHEET - 200, Math.max(0, n)));

/** A thing with its middle at a point, and its section large enough around it. */
function moved(instrument: Instrument, thing: Thing, at: { x: number; y: number }): Instrument {
  const [kind, id] = thing.split(':') as ['control' | 'jack', string];
  const place = <T extends { id: string; place: { x: number; y: number } }>(list: T[]): T[] =>
    list.map((o) =>
      o.id === id ? { ...o, place: { ...o.place, x: within(at.x), y: within(at.y) } } : o,
    );
  const next: Instrument = {
    ...instrument,
    ...(kind === 'control'
      ? { controls: place(instrument.controls) }
      : { jacks: place(instrument.jacks) }),
  };
  const box = boxOf(next, thing)!;
  const list: readonly { id: string; section: string }[] =
    kind === 'control' ? next.controls : next.jacks;
  const home = list.find((o) => o.id === id)!.section;
  // No sheet goes on to the left of its edge or above it.
  const push = { x: Math.max(0, ROOM - box.x), y: Math.max(0, HEAD - box.y) };
  const sections = next.sections.map((s) => {
    if (s.id !== home) return s;
    const left = Math.min(s.x, Math.max(0, box.x + push.x - ROOM));
    const top = Math.min(s.y, Math.max(0, box.y + push.y - HEAD));
    const right = Math.max(s.x + s.width, box.x + push.x + box.width + ROOM);
    const bottom = Math.max(s.y + s.height, box.y + push.y + box.height + ROOM);
    return {
      ...s,
      ...{ x: Math.floor(left), y: Math.floor(top) },
      ...{
        width: Math.ceil(right - Math.floor(left)),
        height: Math.ceil(bottom - Math.floor(top)),
      },
    };
  });
  return placed({ ...next, sections }, new Map([[thing, push]]));
}
