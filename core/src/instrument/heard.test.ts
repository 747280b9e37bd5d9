import { controlHeard } from './heard';
import type { Control } from './schema';

const base = { section: 's', name: 'x', place: { x: 0, y: 0, size: 1 }, bindings: [] };
const cutoff = { ...base, id: 'cutoff', kind: 'knob', rest: 0, sweep: 300, cc: 74 } as Control;
const wave = {
  ...base,
  id: 'wave',
  kind: 'rotary',
  rest: 'a',
  positions: ['a', 'b', 'c'].map((id) => ({ id, name: id })),
  cc: 20,
} as Control;
const mute = { ...base, id: 'fine', kind: 'knob', rest: 0, sweep: 300 } as Control;

describe('a controller number that is heard', () => {
  it('is a share of the travel: the ends are the ends, 64 is the middle', () => {
    const at = (sent: number) => controlHeard([mute, cutoff], 74, sent)?.value;
    expect([at(0), at(32), at(64), at(127)]).toEqual([0, 0.25, 0.5, 1]);
    for (let sent = 1; sent < 128; sent++) {
      expect(at(sent)).toBeGreaterThan(at(sent - 1) as number);
      expect(at(sent)).toBeCloseTo(sent / 127, 2);
    }
  });

  it('is a position: each has as many of the 128 values', () => {
    const counts: Record<string, number> = {};
    for (let sent = 0; sent < 128; sent++) {
      const { value } = controlHeard([wave], 20, sent)!;
      counts[value] = (counts[value] ?? 0) + 1;
    }
    expect(Object.keys(counts)).toEqual(['a', 'b', 'c']);
    for (const count of Object.values(counts)) expect(Math.abs(count - 128 / 3)).toBeLessThan(1);
  });

  it('is nobody’s where no control sends it', () => {
    expect(controlHeard([mute, cutoff], 20, 64)).toBeUndefined();
  });
});
