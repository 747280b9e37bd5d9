import fc from 'fast-check';
import { compile } from '../circuit';
import { checkInstrument, type Instrument, instrumentSchema, keepsMeaning } from '../instrument';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import { capabilitiesOf } from '../sequence/capabilities';
import { sluice } from '../testing/sluice';
import { withFixed, withModuleName } from './modules';
import { withMatrix, withMatrixEnd, withMatrixSaid, withoutMatrix } from './matrix';
import {
  exchangeable,
  withExchange,
  withoutRevision,
  withRevision,
  withRevisionSaid,
} from './revisions';
import {
  recogniseRows,
  sequencerKinds,
  withAbility,
  withoutSequencer,
  withSaid,
  withSequencer,
} from './sequencers';

const described = (text: string): Instrument => instrumentOf(readOutline(text).outline, text);
const rows = described(
  'Own Rows\nUpper row:\n8 x -5..5 knob: 1, 2, 3, 4, 5, 6, 7, 8\nLower row:\n4 x 0..10 slider: step 1, step 2, step 3, step 4\nSequencer clock:\nrate 1..10\nlast step 1/2/3/4/5/6/7/8\ndirection forward/back\nFilter:\ncutoff 0..10\ndrive 1 0..10\ndrive 2 0..10',
);

describe('sequencers', () => {
  it('of every kind are what the schema and the check take', () => {
    for (const { kind } of sequencerKinds) {
      const { instrument, id } = withSequencer(rows, kind);
      expect(checkInstrument(instrument)).toEqual([]);
      expect(() => instrumentSchema.parse(instrument)).not.toThrow();
      const twice = withSequencer(instrument, kind);
      expect(twice.id).not.toBe(id);
      expect(checkInstrument(twice.instrument)).toEqual([]);
      expect(withoutSequencer(instrument, id)).toEqual(rows);
    }
    let many = rows;
    for (let i = 0; i < 16; i++) many = withSequencer(many, 'two-pass').instrument;
    expect(() => withSequencer(many, 'two-pass')).toThrow('16 sequencers at most');
  });

  it('of voltage rows take the controls that are numbered in lines, and those that tell them something', () => {
    const found = recogniseRows(rows);
    expect(found.map((r) => [r.name, r.controls.length, r.pitch])).toEqual([
      ['Upper row', 8, true],
      ['Lower row', 4, false],
    ]);
    expect(found[0]!.controls[7]).toBe('upper-row-8');
    const { instrument } = withSequencer(rows, 'rows');
    expect(instrument.sequencers[0]).toMatchObject({
      steps: 8,
      panel: {
        last: 'sequencer-clock-last-step',
        direction: 'sequencer-clock-direction',
        rate: 'sequencer-clock-rate',
      },
    });
    expect(() => withSequencer(sluice, 'rows')).toThrow('name them so first');
  });

  it('say what they can only where their kind is otherwise', () => {
    const { instrument, id } = withSequencer(rows, 'arpeggio');
    const said = (i: Instrument): object => i.sequencers[0]!.can;
    expect(said(withAbility(instrument, id, 'octaves', 4))).toEqual({});
    const three = withAbility(instrument, id, 'octaves', 3);
    expect(said(three)).toEqual({ octaves: 3 });
    expect(capabilitiesOf(three.sequencers[0]).octaves).toBe(3);
    expect(said(withAbility(three, id, 'octaves', 4))).toEqual({});
    const placed = withSaid(three, id, { places: { banks: 4, slots: 16 }, name: 'runner' });
    expect(checkInstrument(placed)).toEqual([]);
    expect(withSaid(placed, id, { places: undefined }).sequencers[0]).not.toHaveProperty('places');
  });

  it('lose what is gone from the panel, and keep what is renamed', () => {
    const { instrument } = withSequencer(rows, 'rows');
    const retyped = (from: string, to: string): Instrument => {
      const text = instrument.outline!.replace(from, to);
      return instrumentOf(readOutline(text).outline, text, instrument);
    };
    const shorter = retyped('step 3, step 4', 'step 3, other').sequencers[0]!.rows[1]!;
    expect(shorter.controls).toHaveLength(4);
    const gone = retyped('Lower row:\n4 x 0..10 slider: step 1, step 2, step 3, step 4\n', '');
    expect(gone.sequencers[0]!.rows.map((r) => r.name)).toEqual(['Upper row']);
    expect(checkInstrument(gone)).toEqual([]);
  });
});

describe('a matrix', () => {
  it('joins all that moves with all that is moved, and compiles', () => {
    const made = withMatrix({ ...sluice, matrix: undefined });
    expect(checkInstrument(made)).toEqual([]);
    expect(() => instrumentSchema.parse(made)).not.toThrow();
    const { sources, destinations } = made.matrix!;
    expect(sources.length).toBeGreaterThan(3);
    expect(destinations.some((d) => d.port === 'filter.cutoff')).toBe(true);
    expect(sources.some((s) => /gate|trigger/.test(s.port))).toBe(false);
    const row = { row: 0, source: sources[0]!.id, destination: destinations[0]!.id, depth: 0.5 };
    const graph = compile(made, { settings: {}, cables: [], matrix: [row] });
    expect(graph.nodes.some((n) => n.id === 'matrix-1')).toBe(true);
    expect(withoutMatrix(made)).not.toHaveProperty('matrix');
    expect(() => withMatrix(rows)).toThrow('nothing that moves');
  });

  it('takes and leaves its ends one by one, but never the last', () => {
    let made = withMatrix({ ...sluice, matrix: undefined });
    const port = made.matrix!.sources[0]!.port;
    made = withMatrixEnd(made, 'sources', port);
    expect(made.matrix!.sources.some((s) => s.port === port)).toBe(false);
    made = withMatrixEnd(made, 'sources', port);
    expect(made.matrix!.sources.at(-1)!.port).toBe(port);
    for (const end of made.matrix!.destinations)
      made = withMatrixEnd(made, 'destinations', end.port);
    expect(made.matrix!.destinations).toHaveLength(1);
    expect(withMatrixSaid(made, { rows: 16 }).matrix!.rows).toBe(16);
    expect(checkInstrument(made)).toEqual([]);
  });
});

describe('revisions', () => {
  it('exchange modules for those that have all that they are wired and turned by', () => {
    const one = withRevision(sluice, 'late');
    const id = one.revisions.at(-1)!.id;
    const kinds = exchangeable(sluice, 'filter');
    expect(kinds.length).toBeGreaterThan(0);
    expect(exchangeable(sluice, 'nothing')).toEqual([]);
    const late = withExchange(one, id, 'filter', kinds[0]!);
    expect(checkInstrument(late)).toEqual([]);
    const heard = compile(late, { settings: {}, cables: [], revision: id });
    expect(heard.nodes.find((n) => n.id === 'filter')!.kind).toBe(kinds[0]);
    expect(withExchange(late, id, 'filter', null).revisions).toEqual(one.revisions);
    expect(withRevisionSaid(late, id, { note: 'from 12 on' }).revisions.at(-1)!.note).toBe(
      'from 12 on',
    );
    expect(withoutRevision(one, id)).toEqual(sluice);
  });

  it('of any module that can be exchanged leave a sound instrument', () => {
    const made = withRevision(sluice, 'other');
    const id = made.revisions.at(-1)!.id;
    fc.assert(
      fc.property(fc.constantFrom(...sluice.circuit.modules), fc.nat(), (module, n) => {
        const kinds = exchangeable(sluice, module.id);
        if (kinds.length === 0) return;
        const other = withExchange(made, id, module.id, kinds[n % kinds.length]!);
        expect(checkInstrument(other)).toEqual([]);
      }),
    );
  });
});

describe('what patches are recorded on', () => {
  const { instrument: one } = withSequencer(rows, 'rows');
  const sounding = withMatrix({ ...sluice, matrix: undefined });

  it('means the same when more is said, or something is called otherwise', () => {
    const id = one.sequencers[0]!.id;
    expect(keepsMeaning(one, withAbility(one, id, 'swing', true))).toBe(true);
    expect(keepsMeaning(one, withSaid(one, id, { name: 'eights' }))).toBe(true);
    expect(keepsMeaning(one, withSequencer(one, 'arpeggio').instrument)).toBe(true);
    expect(keepsMeaning(sluice, withRevision(sluice, 'late'))).toBe(true);
    expect(keepsMeaning(sluice, withModuleName(sluice, 'filter', 'sieve'))).toBe(true);
    expect(keepsMeaning(sluice, sounding)).toBe(true);
    expect(keepsMeaning(sounding, withMatrixSaid(sounding, { rows: 12 }))).toBe(true);
  });

  it('means something else when what was recorded would be played otherwise', () => {
    const id = one.sequencers[0]!.id;
    expect(keepsMeaning(one, withSaid(one, id, { steps: 4 }))).toBe(false);
    expect(keepsMeaning(one, withoutSequencer(one, id))).toBe(false);
    const first = sounding.matrix!.sources[0]!.port;
    expect(keepsMeaning(sounding, withMatrixEnd(sounding, 'sources', first))).toBe(false);
    expect(keepsMeaning(sounding, withMatrixSaid(sounding, { rows: 2 }))).toBe(false);
    expect(keepsMeaning(sluice, withoutRevision(sluice, sluice.revisions[0]!.id))).toBe(false);
    expect(keepsMeaning(sluice, withFixed(sluice, 'filter', 'track', 50))).toBe(false);
  });
});
