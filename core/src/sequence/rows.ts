import type { ContinuousControl, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import type { Sequencer } from '../instrument/sequencer';
import type { Patch } from '../patch/schema';
import { formatValue, soundingValue } from '../reading/format';
import { readingTolerance, snap } from '../reading/resolution';
import { taperBounds, taperPosition, taperValue } from '../reading/taper';
import type { Direction } from '../pattern/direction';
import type { Pattern, Track } from '../pattern/pattern';
import { stepRates, type StepRate } from '../pattern/rate';

/** A row of voltages of an instrument. */
export type Row = Sequencer['rows'][number];

/** One step of a row: the knob, the volts, and what they mean behind the row's path. */
export interface RowStep {
  control: string;
  volts: number;
  /** Where the knob stands for it, and as the panel shows it. */
  position: number;
  reading: string;
  /** Semitones above the row's bottom, behind the path. */
  semitones: number;
  /** Cents that the knob misses the volts by. */
  missesCents: number;
  /** Cents either way that a hand can miss what is printed by. */
  toleranceCents: number;
}

const knobOf = (instrument: Instrument, id: string): ContinuousControl | undefined => {
  const found = instrument.controls.find((c) => c.id === id);
  return found && !isSwitched(found) ? found : undefined;
};

/** Lowest and highest volts of a row. */
export function rowReach(instrument: Instrument, row: Row): [number, number] {
  const knob = knobOf(instrument, row.controls[0]!);
  return knob?.bindings[0] ? taperBounds(knob.bindings[0].taper) : [0, 0];
}

/** Gain of the path that a row goes through, as the panel has it; 1 where there is nothing to set. */
export function rowGain(instrument: Instrument, row: Row, patch: Pick<Patch, 'settings'>): number {
  const through = row.through === undefined ? undefined : knobOf(instrument, row.through);
  if (!through?.bindings[0]) return 1;
  const at = Number(soundingValue(through, patch.settings[through.id]));
  return taperValue(through.bindings[0].taper, at);
}

/** What the steps of a row mean. @param volts by step; missing ones are the row's bottom */
export function rowSteps(
  instrument: Instrument,
  row: Row,
  volts: readonly number[],
  gain = 1,
): RowStep[] {
  return row.controls.flatMap((id, i): RowStep[] => {
    const knob = knobOf(instrument, id);
    const taper = knob?.bindings[0]?.taper;
    if (!knob || !taper) return [];
    const [lo, hi] = taperBounds(taper);
    const wanted = Math.min(hi, Math.max(lo, volts[i] ?? lo));
    const position = snap(knob, taperPosition(taper, wanted) ?? 0);
    const reached = taperValue(taper, position);
    const width = taperValue(taper, Math.min(1, position + readingTolerance(knob, position)));
    return [
      {
        control: id,
        volts: wanted,
        position,
        reading: formatValue(knob, position),
        semitones: 12 * gain * wanted,
        missesCents: 1200 * gain * (reached - wanted),
        toleranceCents: 1200 * gain * Math.abs(width - reached),
      },
    ];
  });
}

/** Volts as the panel holds them now. */
export function rowsOnPanel(
  instrument: Instrument,
  sequencer: Sequencer,
  patch: Pick<Patch, 'settings'>,
): Track['rows'] {
  return Object.fromEntries(
    sequencer.rows.map((row) => [
      row.id,
      row.controls.map((id) => {
        const knob = knobOf(instrument, id);
        const taper = knob?.bindings[0]?.taper;
        if (!knob || !taper) return 0;
        return taperValue(taper, Number(soundingValue(knob, patch.settings[id])));
      }),
    ]),
  );
}

/** A movement that puts a pattern of rows on the panel. */
export interface RowMove {
  control: string;
  value: Value;
  reading: string;
}

/**
 * The knobs and switches that hold a pattern of voltage rows: steps, last step, direction, rate and swing. Where the panel has
 * no position for what is wanted, its nearest.
 */
export function rowMoves(
  instrument: Instrument,
  sequencer: Sequencer,
  pattern: Pattern,
): RowMove[] {
  const [track] = pattern.tracks;
  if (!track) return [];
  const moves: RowMove[] = sequencer.rows.flatMap((row) => {
    const volts = track.rows[row.id] ?? [];
    return rowSteps(instrument, row, volts)
      .slice(0, Math.min(track.length, volts.length))
      .map(({ control, position, reading }) => ({ control, value: position, reading }));
  });
  const { last, direction, rate, swing } = sequencer.panel;
  const choose = (id: string | undefined, fits: (value: string | number) => boolean): void => {
    const control = instrument.controls.find((c) => c.id === id);
    if (!control || !isSwitched(control)) return;
    const position = control.positions.find((p) =>
      control.bindings.some((b) => b.values[p.id] !== undefined && fits(b.values[p.id]!)),
    );
    if (!position) return;
    moves.push({ control: control.id, value: position.id, reading: position.name });
  };
  choose(last, (v) => v === track.length);
  choose(direction, (v) => v === track.direction);
  choose(rate, (v) => typeof v === 'number' && Math.abs(v - stepRates[track.rate]) < 1e-9);
  const knob = swing === undefined ? undefined : knobOf(instrument, swing);
  const taper = knob?.bindings[0]?.taper;
  if (knob && taper) {
    const value = snap(knob, taperPosition(taper, track.swing) ?? knob.rest);
    moves.push({ control: knob.id, value, reading: formatValue(knob, value) });
  }
  return moves;
}

/** The panel with a pattern of voltage rows on it: what is heard, and what is rebuilt. */
export function withRows<P extends Pick<Patch, 'settings'>>(
  instrument: Instrument,
  sequencer: Sequencer,
  pattern: Pattern,
  patch: P,
): P {
  const settings = { ...patch.settings };
  for (const { control, value } of rowMoves(instrument, sequencer, pattern)) {
    settings[control] = { kind: 'set', value };
  }
  return { ...patch, settings };
}

/**
 * The panel with the first pattern of each sequencer of rows on it: where a patch has one, it says where the knobs of its steps
 * stand, and what was recorded of them is what stood there before.
 */
export function withFirstRows<
  P extends Pick<Patch, 'settings'> & { patterns?: readonly Pattern[] },
>(instrument: Instrument, patch: P): P {
  return instrument.sequencers
    .filter((s) => s.kind === 'rows')
    .reduce((panel, sequencer) => {
      const first = patch.patterns?.find((p) => p.sequencer === sequencer.id);
      return first ? withRows(instrument, sequencer, first, panel) : panel;
    }, patch);
}

/** What a panel of rows holds, read back: the pattern's volts, length, direction, rate and swing. */
export function rowsFromPanel(
  instrument: Instrument,
  sequencer: Sequencer,
  settings: Record<string, Value>,
): Pick<Track, 'rows' | 'length' | 'direction' | 'rate' | 'swing'> {
  const at = (id: string | undefined): string | number | undefined => {
    const control = instrument.controls.find((c) => c.id === id);
    if (!control || !isSwitched(control)) return undefined;
    const value = settings[control.id] ?? control.rest;
    return control.bindings[0]?.values[String(value)];
  };
  const steps = sequencer.rows[0]?.controls.length ?? 1;
  const beats = at(sequencer.panel.rate);
  const rate = (Object.keys(stepRates) as StepRate[]).find(
    (r) => Math.abs(stepRates[r] - Number(beats)) < 1e-9,
  );
  const set = Object.fromEntries(
    Object.entries(settings).map(([id, value]) => [id, { kind: 'set' as const, value }]),
  );
  return {
    rows: rowsOnPanel(instrument, sequencer, { settings: set }),
    length: Number(at(sequencer.panel.last) ?? steps),
    direction: (at(sequencer.panel.direction) as Direction | undefined) ?? 'forward',
    rate: rate ?? '1/8',
    swing: swingOn(instrument, sequencer, settings),
  };
}

/** Per cent that the panel gives the first of two steps; straight where it has no such knob. */
function swingOn(
  instrument: Instrument,
  { panel }: Sequencer,
  settings: Record<string, Value>,
): number {
  const knob = panel.swing === undefined ? undefined : knobOf(instrument, panel.swing);
  const taper = knob?.bindings[0]?.taper;
  return knob && taper ? taperValue(taper, Number(settings[knob.id] ?? knob.rest)) : 50;
}

/**
 * What hands do while rows run by themselves: the first key of the patch's phrase, held. It carries the names of the
 * rows' own pattern, so that whoever follows the run finds it.
 */
export function heldKey(pattern: Pattern, patch: Pick<Patch, 'phrase'>): Pattern[] {
  const [key] = patch.phrase;
  const [track] = pattern.tracks;
  if (!key || !track) return [];
  const steps = [{ notes: [key.note], velocity: key.velocity, length: 64 }];
  const held = { ...track, length: 64, rate: '1/1' as const, direction: 'forward' as const, steps };
  return [{ ...pattern, tracks: [{ ...held, rows: {} }] }];
}
