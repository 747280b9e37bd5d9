import { initWith, sluice } from '../testing/sluice';
import {
  gradeOf,
  openSensitivityCase,
  rank,
  sensitivityOf,
  sensitiveControls,
} from './sensitivity';

const open = (values: Parameters<typeof initWith>[0] = {}, more = {}) =>
  openSensitivityCase(sluice, initWith({ cutoff: 0.4, resonance: 0.3, ...values }, more), 48);

describe('which controls matter', () => {
  it('weighs the cutoff above the release, and what is not heard at nothing', () => {
    const c = open();
    const all = rank(sensitiveControls(sluice, c.patch).map((id) => sensitivityOf(c, id)));
    const place = (id: string): number => all.findIndex((w) => w.control === id);
    expect(place('cutoff')).toBeLessThan(place('env1-release'));
    // The second oscillator is not mixed in: its tuning cannot be heard.
    expect(all.find((w) => w.control === 'osc2-fine')!.distance.total).toBe(0);
    expect(gradeOf(all.find((w) => w.control === 'osc2-fine'))).toBe(0);
    for (let i = 1; i < all.length; i++) {
      expect(all[i]!.distance.total).toBeLessThanOrEqual(all[i - 1]!.distance.total);
    }
  });

  it('hears the tuning of the second oscillator once it is mixed in', () => {
    const c = open({ 'mix-osc2': 0.7 });
    expect(sensitivityOf(c, 'osc2-fine').distance.total).toBeGreaterThan(0.25);
  });

  it('judges a range by its ends', () => {
    const range = { kind: 'range', from: 0.2, to: 0.6, best: 0.4 } as const;
    const wide = open();
    const patch = { ...wide.patch, settings: { ...wide.patch.settings, cutoff: range } };
    const weight = sensitivityOf(openSensitivityCase(sluice, patch, 48), 'cutoff');
    expect([weight.from, weight.to]).toEqual([0.2, 0.6]);
    expect(weight.distance.total).toBeGreaterThan(sensitivityOf(wide, 'cutoff').distance.total);
  });

  it('leaves out switches and what does not matter', () => {
    const patch = initWith();
    patch.settings.cutoff = { kind: 'any' };
    const ids = sensitiveControls(sluice, patch);
    expect(ids).not.toContain('cutoff');
    expect(ids).not.toContain('osc1-shape');
    expect(() => sensitivityOf(openSensitivityCase(sluice, patch, 48), 'osc1-shape')).toThrow(
      'misread',
    );
  });
});
