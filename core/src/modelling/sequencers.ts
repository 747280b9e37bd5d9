import { MOST_SEQUENCERS } from '../instrument/limits';
import { freeName } from '../document';
import type { Abilities, Sequencer } from '../instrument/sequencer';
import type { Control, Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { capabilitiesOf } from '../sequence/capabilities';

export type SequencerKind = Sequencer['kind'];
type Row = Sequencer['rows'][number];

/** What each kind is, for whoever has to choose one. */
export const sequencerKinds: readonly { kind: SequencerKind; name: string; says: string }[] = [
  {
    kind: 'two-pass',
    name: 'Line',
    says: 'Pitches are entered in one pass, times, ties and accents in another.',
  },
  { kind: 'rows', name: 'Voltage rows', says: 'Each step is a knob or slider of the panel.' },
  {
    kind: 'multi-track',
    name: 'Tracks',
    says: 'Several tracks of steps, each with lengths, values and conditions of its own.',
  },
  { kind: 'arpeggio', name: 'Arpeggio', says: 'Keys that are held are run through.' },
];

/**
 * The instrument with one more sequencer, as its kind usually is: voltage rows take the numbered controls that stand in
 * lines on the panel, and the controls that are named like what a row can be told.
 * @throws Error when there are 16 already, or rows are wanted where no controls are numbered
 */
export function withSequencer(
  instrument: Instrument,
  kind: SequencerKind,
): { instrument: Instrument; id: string } {
  const { sequencers } = instrument;
  if (sequencers.length >= MOST_SEQUENCERS)
    throw new Error(`An instrument has ${MOST_SEQUENCERS} sequencers at most.`);
  const id = freeName(kind, sequencers);
  const name = sequencerKinds.find((k) => k.kind === kind)!.name.toLowerCase();
  const base: Sequencer = {
    ...{ id, name: id === kind ? name : `${name} ${id.slice(kind.length + 1)}`, kind },
    ...{ steps: 16, tracks: [], rows: [], panel: {}, can: {} },
  };
  const made = { ...base, ...MADE[kind](instrument) };
  return { instrument: { ...instrument, sequencers: [...sequencers, made] }, id };
}

const MADE: Record<SequencerKind, (instrument: Instrument) => Partial<Sequencer>> = {
  'two-pass': () => ({}),
  rows(instrument) {
    const rows = recogniseRows(instrument);
    if (rows.length === 0)
      throw new Error(
        'No controls of the panel are numbered in a line, like "step 1" to "step 8": name them so first.',
      );
    const steps = Math.max(...rows.map((row) => row.controls.length));
    return { steps, rows, panel: recognisePanel(instrument) };
  },
  'multi-track': () => ({
    steps: 64,
    page: 16,
    tracks: [1, 2, 3, 4].map((n) => ({
      ...{ id: `track-${n}`, name: `track ${n}`, from: 0, to: 127 },
    })),
  }),
  arpeggio: (instrument) => ({ steps: 64, panel: recognisePanel(instrument) }),
};

export const withoutSequencer = (instrument: Instrument, id: string): Instrument => ({
  ...instrument,
  sequencers: instrument.sequencers.filter((s) => s.id !== id),
});

/** The instrument with something of a sequencer said otherwise. */
export const withSaid = (
  instrument: Instrument,
  id: string,
  said: Partial<Omit<Sequencer, 'id' | 'kind'>>,
): Instrument => ({
  ...instrument,
  sequencers: instrument.sequencers.map((s) => (s.id === id ? dropNothing({ ...s, ...said }) : s)),
});

/** The instrument with something that a sequencer can do, or cannot; said only where its kind is otherwise. */
export function withAbility<K extends keyof Abilities>(
  instrument: Instrument,
  id: string,
  key: K,
  value: Abilities[K],
): Instrument {
  const sequencer = instrument.sequencers.find((s) => s.id === id);
  if (!sequencer) return instrument;
  const { [key]: _, ...can } = sequencer.can;
  const usual = capabilitiesOf({ ...sequencer, can })[key];
  const same = JSON.stringify(usual) === JSON.stringify(value);
  return withSaid(instrument, id, { can: same ? can : { ...can, [key]: value } });
}

/** What is said to be nothing is not said. */
function dropNothing(sequencer: Sequencer): Sequencer {
  const said = Object.entries(sequencer).filter(([, value]) => value !== undefined);
  return Object.fromEntries(said) as Sequencer;
}

/** Lines of four controls and more of one section that are named alike but for their number, counted without a gap. */
export function recogniseRows(instrument: Instrument): Row[] {
  const lines = new Map<string, { section: string; word: string; steps: Map<number, Control> }>();
  for (const control of instrument.controls) {
    const [, word = '', number] = /^(.*?)\s*(\d+)$/.exec(control.name) ?? [];
    if (number === undefined || isSwitched(control)) continue;
    const key = `${control.section} ${word.toLowerCase()}`;
    const line = lines.get(key) ?? { section: control.section, word, steps: new Map() };
    if (!line.steps.has(Number(number))) line.steps.set(Number(number), control);
    lines.set(key, line);
  }
  const whole = [...lines.values()].filter(
    ({ steps }) => steps.size >= 4 && steps.has(1) && Math.max(...steps.keys()) === steps.size,
  );
  const rows: Row[] = [];
  for (const { section, word, steps } of whole.slice(0, 8)) {
    const titled = instrument.sections.find((s) => s.id === section)!.name;
    const alone = whole.filter((one) => one.section === section).length === 1;
    const name = (alone || word === '' ? titled : word).slice(0, 80);
    rows.push({
      id: freeName('row', rows),
      name,
      controls: [...steps].sort(([a], [b]) => a - b).map(([, control]) => control.id),
      // The first row is what is most often heard of one.
      pitch: rows.length === 0,
    });
  }
  return rows;
}

const PANEL: [keyof Sequencer['panel'], RegExp][] = [
  ['last', /^(last|length|steps|last step)$/],
  ['direction', /^(direction|order|run)$/],
  ['rate', /^(clock rate|rate|clock|division|speed)$/],
  ['swing', /^(swing|shuffle)$/],
  ['mode', /^(mode|order|pattern)$/],
  ['octaves', /^(octaves|range|octave range)$/],
];

/** Controls that tell a sequencer something, by their names in a section that is named for it. */
function recognisePanel(instrument: Instrument): Sequencer['panel'] {
  const sections = new Set(
    instrument.sections
      .filter((s) => /sequenc|arpeg|row|step|clock/.test(s.name.toLowerCase()))
      .map((s) => s.id),
  );
  const there = instrument.controls.filter((c) => sections.has(c.section));
  const taken = new Set<string>();
  const found: Sequencer['panel'] = {};
  for (const [key, words] of PANEL) {
    const control = there.find((c) => !taken.has(c.id) && words.test(c.name.toLowerCase()));
    if (!control) continue;
    taken.add(control.id);
    found[key] = control.id;
  }
  return found;
}
