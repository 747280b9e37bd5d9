import { patternSchema, type PatternStep } from '../pattern/pattern';
import { initWith, sluice } from '../testing/sluice';
import { nodeOf } from './graph';
import { lockSwitches, lockTurns, unlockTurns } from './lock';

const pattern = (...tracks: PatternStep[][]) =>
  patternSchema.parse({
    id: 'p',
    name: 'P',
    tracks: tracks.map((steps, i) => ({ id: `t${i}`, name: `T${i}`, length: 4, steps })),
  });
const panel = initWith({ 'osc1-octave': 'f8' });

describe('what steps lock', () => {
  it('turns numbers, those of switches too, and turns them back at the next step', () => {
    const locked = pattern([{ locks: { 'osc1-octave': 'f4' } }]);
    const turns = lockTurns(sluice, panel, [locked])[0]![0]!;
    expect(turns.map(([turn]) => turn!.value)).toEqual([12, 0, 0, 0]);
    expect(unlockTurns(sluice, panel, [locked])).toMatchObject([{ param: 'octave', value: 0 }]);
    expect(lockTurns(sluice, panel, [pattern([{}])])).toEqual([[null]]);
  });

  it('needs circuits of its own only where a switch exchanges something', () => {
    expect(lockSwitches(sluice, panel, [pattern([{ locks: { 'osc1-octave': 'f4' } }])])).toBeNull();
    expect(lockSwitches(sluice, panel, [pattern([{ locks: { cutoff: 0.5 } }])])).toBeNull();
  });

  it('and tracks that lock side by side have a circuit for each pair', () => {
    const found = lockSwitches(sluice, panel, [
      pattern([{}]),
      pattern(
        [{ locks: { 'osc1-shape': 'sine' } }, {}, { locks: { 'osc1-shape': 'pulse' } }],
        [{}],
        [{}, { locks: { 'osc2-shape': 'noise' } }],
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
    const all = (control: string) => shapes.map((shape) => ({ locks: { [control]: shape } }));
    const found = lockSwitches(sluice, panel, [pattern(all('osc1-shape'), all('osc2-shape'))])!;
    expect(found.graphs).toHaveLength(5);
    expect(found.tracks[0]![1]).toBeNull();
  });
});
