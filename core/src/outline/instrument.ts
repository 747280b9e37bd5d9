import equal from 'fast-deep-equal';
import type { Jack } from '../instrument/jack';
import { LARGEST_SHEET } from '../instrument/limits';
import type { ContinuousControl, Control, Instrument, Scale, Section } from '../instrument/schema';
import { isModuleKind, moduleSpec, type NumberParam } from '../catalogue';
import { printedTaper } from '../reading/printed-taper';
import { pairControls } from '../instrument/pairs';
import { INSTRUMENT_FORMAT_VERSION } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { namedControls, onlyWhatIsThere } from '../instrument/still-there';
import { guessStage } from './guess';
import { cabinetOf } from './cabinet';
import { withCabinet, withoutCabinet } from './with-cabinet';
import { sheetOf } from './sheet-size';
import { placedByHand } from './keep-places';
import { layOut, type LaidSection } from './layout';
import type { Outline } from './outline';
import { controlOf, jackOf } from './control-of';
import { idFrom, take } from './ids';

/**
 * The instrument that an outline describes, laid out, with no circuit yet: it is recorded, compared, rebuilt and printed.
 * Ids are made of the words: the same words give the same ids. A cabinet stands above the sections that are no modules.
 * @param before the instrument as it was described: its id stays, and all that an outline does not say
 * @param anew it is laid out as if nothing had stood anywhere before
 */
export function instrumentOf(
  outline: Outline,
  text: string,
  before?: Instrument,
  anew = false,
): Instrument {
  const modules = outline.sections.some((s) => s.module);
  if (!modules && !before?.rack) return panelFrom(outline, text, before, anew);
  const sections = outline.sections.filter((s) => !s.module);
  const below = before && withoutCabinet(before);
  const taken = before?.rack?.placed.map((p) => p.id);
  const panel = panelFrom({ ...outline, sections }, text, below, anew, taken);
  const ids = [...panel.sections, ...panel.controls, ...panel.jacks, ...panel.circuit.modules];
  const rack = cabinetOf(
    outline,
    before,
    ids.map((one) => one.id),
    sections.length === 0 ? 0 : panel.panel.height,
    (words, was) => panelFrom(words, '', was, anew),
  );
  return withCabinet(panel, rack, before);
}

/**
 * The instrument that an outline without modules describes.
 * @param reserved ids that no section may get
 */
function panelFrom(
  outline: Outline,
  text: string,
  before: Instrument | undefined,
  anew: boolean,
  reserved: readonly string[] = [],
): Instrument {
  const [sections, controls, jacks] = [new Set(reserved), new Set<string>(), new Set<string>()];
  const known = knownIds(before);
  const widths = new Map(before?.sections.map((s) => [s.id, s.width]));
  const laid = outline.sections.map((s): LaidSection => {
    const section: Section = {
      id: take(known(s.name) ?? idFrom(s.name), sections),
      name: s.name,
      stage: s.stage ?? guessStage(s.name),
      x: 0,
      y: 0,
      width: 64,
      height: 64,
    };
    const place = { x: 0, y: 0, size: 40 };
    const own = (kind: string, name: string, word = name): string =>
      known(s.name, kind, name) ?? idFrom(`${section.id} ${word}`);
    let above = '';
    return {
      section,
      before: widths.get(section.id),
      controls: s.controls.map((c) => {
        const id = take(own('control', c.name), controls);
        const made = controlOf(c, id, section.id, above, { ...place });
        if (!c.second) above = c.name;
        return made;
      }),
      jacks: s.jacks.map((j) => {
        const id = take(own(j.direction, j.name, `${j.name} ${j.direction}`), jacks);
        return jackOf(j, id, section.id, { ...place });
      }),
    };
  });
  const panel = layOut(laid, before?.panel.width);
  const name = outline.name || before?.name || 'No name yet';
  const made: Instrument = {
    format: 'hurrel-instrument',
    version: INSTRUMENT_FORMAT_VERSION,
    id: idFrom(`${outline.maker} ${name}`),
    maker: outline.maker || 'Own',
    name,
    summary: '',
    outline: text,
    panel: { width: Math.max(panel.width, 120), height: Math.max(panel.height, 80) },
    sections: laid.map((l) => l.section),
    controls: laid.flatMap((l) => l.controls),
    jacks: laid.flatMap((l) => l.jacks),
    circuit: { modules: [], wires: [] },
    revisions: [],
    sequencers: [],
    memory: { kind: 'none' },
    start: { note: '', settings: {} },
    init: { note: '', settings: {} },
  };
  return before ? keeping(withKnownIds(made, before), before, anew) : made;
}

/** What turns something, or is named by matrix or sequencer, keeps its id when it is renamed or moved. */
function withKnownIds(made: Instrument, before: Instrument): Instrument {
  const bound = namedControls(before);
  for (const c of before.controls) if (c.bindings.length > 0) bound.add(c.id);
  const ids = new Map(
    pairControls(before, made).flatMap((p): [string, string][] =>
      (p.how === 'renamed' || p.how === 'moved') && bound.has(p.before)
        ? [[p.after!, p.before]]
        : [],
    ),
  );
  if (ids.size === 0) return made;
  return { ...made, controls: made.controls.map((c) => ({ ...c, id: ids.get(c.id) ?? c.id })) };
}

/** Ids that things of the same words have already: one after the other, where several have the same. */
function knownIds(before: Instrument | undefined): (...words: string[]) => string | undefined {
  const ids = new Map<string, string[]>();
  const add = (id: string, ...words: string[]): void => {
    const key = JSON.stringify(words);
    ids.set(key, [...(ids.get(key) ?? []), id]);
  };
  const names = new Map(before?.sections.map((s) => [s.id, s.name]));
  for (const s of before?.sections ?? []) add(s.id, s.name);
  for (const c of before?.controls ?? []) add(c.id, names.get(c.section)!, 'control', c.name);
  for (const j of before?.jacks ?? []) add(j.id, names.get(j.section)!, j.direction, j.name);
  return (...words) => ids.get(JSON.stringify(words))?.shift();
}

/** What an outline does not say stays as it was: circuit, tapers, where jacks lead, memory, sequencers. */
function keeping(made: Instrument, before: Instrument, anew: boolean): Instrument {
  const controls = new Map(before.controls.map((c) => [c.id, c]));
  const jacks = new Map(before.jacks.map((j) => [j.id, j]));
  const { id, summary, circuit, revisions, sequencers, memory, matrix, rack } = before;
  const kinds = new Map(circuit.modules.map((m) => [m.id, m.kind]));
  const paramOf: ParamOf = (module, name) => {
    const kind = kinds.get(module) ?? '';
    const spec = isModuleKind(kind) ? moduleSpec(kind).params[name] : undefined;
    return spec?.kind === 'number' ? spec : undefined;
  };
  const { millimetres, photograph } = before.panel;
  const kept = onlyWhatIsThere({
    ...made,
    panel: sheetOf(
      {
        ...made.panel,
        ...(millimetres ? { millimetres } : {}),
        ...(photograph ? { photograph } : {}),
      },
      made.panel.width,
      made.panel.height,
    ),
    ...{ id, summary, circuit, revisions, sequencers, memory },
    ...(matrix ? { matrix } : {}),
    ...(rack ? { rack } : {}),
    controls: made.controls.map((c) => bound(c, controls.get(c.id), paramOf)),
    jacks: made.jacks.map((j) => {
      const { port = '', level } = jacks.get(j.id) ?? {};
      return { ...j, ...(level === undefined ? {} : { level }), port };
    }),
    start: before.start,
    init: before.init,
  });
  if (anew) return kept;
  if (sameThings(kept, before)) return placedAs(kept, before);
  if (!before.panel.arranged) return kept;
  const placed = placedByHand(kept, before);
  // No sheet is larger: what has no room where it was put stands in rows again.
  return placed.panel.width > LARGEST_SHEET || placed.panel.height > LARGEST_SHEET ? kept : placed;
}

function sameIds(a: readonly { id: string }[], b: readonly { id: string }[]): boolean {
  const ids = new Set(b.map((one) => one.id));
  return a.length === b.length && a.every((one) => ids.has(one.id));
}

/** Whether there is nothing on the panel that was not there, nothing is gone, and nothing is of another kind. */
function sameThings(now: Instrument, before: Instrument): boolean {
  const kinds = new Map(before.controls.map((c) => [c.id, sizing(c)]));
  return (
    sameIds(now.sections, before.sections) &&
    sameIds(now.controls, before.controls) &&
    sameIds(now.jacks, before.jacks) &&
    now.controls.every((c) => kinds.get(c.id) === sizing(c))
  );
}

const sizing = (control: Control): string =>
  `${control.kind} ${isSwitched(control) ? control.positions.length : ''}`;

/** The same things stay where they were. */
function placedAs(now: Instrument, before: Instrument): Instrument {
  const [sections, controls, jacks] = [before.sections, before.controls, before.jacks].map(
    (list) => new Map((list as { id: string }[]).map((one) => [one.id, one])),
  ) as [Map<string, Section>, Map<string, Control>, Map<string, Jack>];
  const at = <T extends { id: string; place: Control['place'] }>(
    one: T,
    old: Map<string, T>,
  ): T => ({
    ...one,
    place: old.get(one.id)!.place,
  });
  return {
    ...now,
    panel: before.panel,
    sections: now.sections.map((s) => {
      const { x, y, width, height } = sections.get(s.id)!;
      return { ...s, x, y, width, height };
    }),
    controls: now.controls.map((c) => at(c, controls)),
    jacks: now.jacks.map((j) => at(j, jacks)),
  };
}

type ParamOf = (module: string, param: string) => NumberParam | undefined;
type Turning = ContinuousControl['bindings'][number];

/** What turned as the panel said goes on doing so when the panel says otherwise. */
function asPrinted(
  binding: Turning,
  before: ContinuousControl,
  now: ContinuousControl,
  paramOf: ParamOf,
): Turning {
  const param = paramOf(binding.module, binding.param);
  if (!param || equal(before.scale, now.scale)) return binding;
  const [was, is] = [before, now].map((c) => printedTaper(c, param, binding.param, binding.reads));
  if (!was || !('taper' in was) || !equal(was.taper, binding.taper)) return binding;
  return is && 'taper' in is ? { ...binding, taper: is.taper } : binding;
}

/** What is bound to a control stays with it as long as it reads as it did, and so does what cannot be said in words. */
function bound(control: Control, before: Control | undefined, paramOf: ParamOf): Control {
  if (!before || isSwitched(control) !== isSwitched(before)) return control;
  const { where = before.where } = control;
  const base = {
    ...control,
    ...(where === undefined ? {} : { where }),
    ...(before.unheard ? { unheard: before.unheard } : {}),
  };
  if (isSwitched(control) && isSwitched(before)) {
    const ids = new Map(before.positions.map((p) => [p.name, p.id]));
    const renamed = control.positions.filter((p) => !ids.has(p.name));
    const names = new Set(control.positions.map((p) => p.name));
    const gone = before.positions.filter((p) => !names.has(p.name));
    // As many new words as there are words gone: they are the same positions under other names.
    if (renamed.length !== gone.length) return base;
    renamed.forEach((p, i) => ids.set(p.name, gone[i]!.id));
    const positions = control.positions.map((p) => ({ ...p, id: ids.get(p.name)! }));
    const rest = positions[control.positions.findIndex((p) => p.id === control.rest)]!.id;
    return { ...base, positions, rest, bindings: before.bindings } as Control;
  }
  if (isSwitched(control) || isSwitched(before)) return base;
  const { sweep, display, scale, bindings } = before;
  const same = scale && control.scale && equal(scale.marks, control.scale.marks);
  const division = same ? { scale: asItWasRead(control.scale!, scale) } : {};
  return {
    ...base,
    sweep,
    ...(display && !control.scale ? { display } : {}),
    ...division,
    bindings: bindings.map((b) => asPrinted(b, before, control, paramOf)),
  } as Control;
}

/** The same numbers stay as they were read: what lies between two of them is no other number all at once. */
function asItWasRead(scale: Scale, { division, by }: Scale): Scale {
  const { by: _, ...rest } = scale;
  return { ...rest, division, ...(by ? { by } : {}) };
}
