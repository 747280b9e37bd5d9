import { estuary, patchOn } from '../testing/panels';
import { initWith, sluice } from '../testing/sluice';
import { endsOf, controllersOf, travelAt } from './travel';

const shares = [0, 0.25, 0.5, 0.75, 1];

describe('the travel of a controller', () => {
  it('knows what listens', () => {
    expect(controllersOf(sluice, initWith())).toEqual(['wheel', 'pedal', 'velocity', 'bend']);
    const matrix = [{ row: 0, source: 'pressure', destination: 'cutoff1', depth: 0.5 }];
    expect(controllersOf(estuary, patchOn(estuary, {}))).not.toContain('pressure');
    expect(controllersOf(estuary, patchOn(estuary, {}, '', { matrix }))).toContain('pressure');
  });

  it('gets brighter with a wheel that opens the filter, and not with one that moves nothing', () => {
    const bright = (depth: number): number[] => {
      const patch = patchOn(estuary, { cutoff: 0.4, 'wheel-cutoff': depth });
      return shares.map((s) => travelAt(estuary, patch, 'wheel', 48, s).brightness);
    };
    const moved = bright(0.6);
    moved.slice(1).forEach((b, i) => expect(b).toBeGreaterThan(moved[i]!));
    expect(new Set(bright(0)).size).toBe(1);
  });

  it('gets louder with velocity', () => {
    const at = (s: number): number => travelAt(estuary, patchOn(estuary), 'velocity', 60, s).level;
    expect(at(1)).toBeGreaterThan(at(0.2) + 1);
  });

  it('finds a silent end, and how much of the travel keeps sounding', () => {
    // The wheel takes the level of a whistle-clean curve: silent from 0.8 on, 20 dB down at 0.5.
    const at = (travel: number) => ({
      travel,
      level: travel >= 0.8 ? -120 : -40 * travel,
      brightness: 1,
    });
    const ends = endsOf(shares.map(at), at);
    expect(ends).toEqual({ low: false, high: true, keep: 0.5 });
    const turned = (travel: number) => ({ ...at(1 - travel), travel });
    expect(endsOf(shares.map(turned), turned)).toEqual({ low: true, high: false, keep: 0.5 });
    const flat = (travel: number) => ({ travel, level: -10, brightness: 1 });
    expect(endsOf(shares.map(flat), flat)).toEqual({ low: false, high: false });
  });
});
