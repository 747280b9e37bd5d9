import { patternSchema, type PatternStep } from '../pattern/pattern';
import { initWith, sluice } from '../testing/sluice';
import { nodeOf } from './graph';
import { ownSwitches, ownChanges, returnChanges } from './own-values';

const pattern = (...tracks: PatternStep[][]) =>
  patternSchema.parse({
    id: 'p',
    name: 'P',
    tracks: tracks.map((steps, i) => ({ id: `t${i}`, name: `T${i}`, length: 4, steps })),
  });
const panel = initWith({ 'osc1-octave': 'f8' });

const note = { notes: [48] };

describe('what steps have of their own', () => {
  it('turns numbers, those of switches too, and turns them back at the next note', () => {
    const notes = [48];
    const owned = pattern([{ notes, ownValues: { 'osc1-octave': 'f4' } }, { notes }]);
    const turns = ownChanges(sluice, panel, [owned])[0]![0]!;
    expect(turns.map(([turn]) => turn?.value)).toEqual([12, 0, undefined, undefined]);
    expect(returnChanges(sluice, panel, [owned])).toMatchObject([{ param: 'octave', value: 0 }]);
    expect(ownChanges(sluice, panel, [pattern([{}])])).toEqual([[null]]);
  });

  it('last as long as their note, or one step when that is chosen', () => {
    const steps: PatternStep[] = [
      { notes: [48], ownValues: { 'osc1-octave': 'f4' } },
      { tie: true },
      { ownValues: { cutoff: 0.5 } },
      { notes: [50] },
    ];
    const turned = (ownFor: 'note' | 'step') => {
      const owned = pattern(steps);
      const tracks = owned.tracks.map((t) => ({ ...t, ownFor }));
      const found = ownChanges(sluice, panel, [{ ...owned, tracks }])[0]![0]!;
      return found.map((turns) => [...new Set(turns.map((t) => t.param))]);
    };
    expect(turned('note')).toEqual([['octave', 'cutoff'], [], ['cutoff'], ['octave', 'cutoff']]);
    expect(turned('step')).toEqual(Array(4).fill(['octave', 'cutoff']));

    const shape = (own?: string) => (own ? { ownValues: { 'osc1-shape': own } } : {});
    const track: PatternStep[] = [
      { notes: [48], ...shape('sine') },
      {},
      shape('pulse'),
      { notes: [48] },
    ];
    const found = ownSwitches(sluice, panel, [pattern(track)])!;
    expect(found.tracks[0]![0]!.steps).toEqual([1, -1, 2, 0]);
  });

  it('needs circuits of its own only where a switch exchanges something', () => {
    expect(
      ownSwitches(sluice, panel, [pattern([{ ownValues: { 'osc1-octave': 'f4' } }])]),
    ).toBeNull();
    expect(ownSwitches(sluice, panel, [pattern([{ ownValues: { cutoff: 0.5 } }])])).toBeNull();
  });

  it('and tracks with own values side by side have a circuit for each pair', () => {
    const found = ownSwitches(sluice, panel, [
      pattern([{}]),
      pattern(
        [
          { ownValues: { 'osc1-shape': 'sine' } },
          note,
          { ownValues: { 'osc1-shape': 'pulse' } },
          note,
        ],
        [{}],
        [note, { ownValues: { 'osc2-shape': 'noise' } }, note, note],
      ),
    ])!;
    expect(found.first).toEqual([0, 1]);
    expect(found.tracks).toEqual([
      [null],
      [{ weight: 1, steps: [1, 0, 2, 0] }, null, { weight: 3, steps: [0, 1, 0, 0] }],
    ]);
    const waves = found.graphs.map((g) => [
      nodeOf(g, 'osc1').params.wave,
      nodeOf(g, 'osc2').params.wave,
    ]);
    expect(waves).toEqual([
      ['saw', 'saw'],
      ['saw', 'saw'],
      ['sine', 'saw'],
      ['pulse', 'saw'],
      ['saw', 'noise'],
      ['sine', 'noise'],
      ['pulse', 'noise'],
    ]);
    expect(new Set(found.keys).size).toBe(6);
    expect(found.keys.slice(0, 3)).toEqual(['{}', '{}', '{"osc1-shape":"sine"}']);
  });

  it('leaves alone what would need more circuits than sixteen', () => {
    const shapes = ['pulse', 'triangle', 'sine', 'noise'];
    const all = (control: string) => shapes.map((shape) => ({ ownValues: { [control]: shape } }));
    const found = ownSwitches(sluice, panel, [pattern(all('osc1-shape'), all('osc2-shape'))])!;
    expect(found.graphs).toHaveLength(5);
    expect(found.tracks[0]![1]).toBeNull();
  });
});
