import { type ContinuousControl, isSwitched } from '../instrument';
import { controlOf, sluice } from '../testing/sluice';
import { formatValue, physicalValue } from './format';
import { nudge, readingTolerance, sameReading, scaleDecimals, snap } from './resolution';
import { formatPhysical } from './unit';

const display: ContinuousControl = {
  id: 'time',
  section: 's',
  name: 'time',
  kind: 'encoder',
  sweep: 300,
  place: { x: 0, y: 0, size: 40 },
  display: { decimals: 0 },
  rest: 0,
  bindings: [
    {
      module: 'm',
      param: 'p',
      taper: { kind: 'linear', lo: 0, hi: 1, unit: 's' },
      reads: { unit: '', factor: 1000 },
    },
  ],
};

describe('what a panel can resolve', () => {
  it('takes a quarter of the smallest division, a quarter of an hour, a display digit', () => {
    expect(readingTolerance(controlOf('cutoff'))).toBeCloseTo(0.025, 9);
    expect(readingTolerance(controlOf('osc2-fine'))).toBeCloseTo(0.025, 9);
    expect(readingTolerance(controlOf('osc1-width'))).toBeCloseTo(0.025, 9);
    expect(readingTolerance(display, 0.412)).toBeCloseTo(0.0005, 9);
    expect(readingTolerance(controlOf('osc1-shape'))).toBe(0);
  });

  it.each([
    [1, 1],
    [10, 0],
    [0.5, 1],
    [0.1, 2],
    [4, 0],
  ])('reads a division of %p to %p decimals', (division, decimals) =>
    expect(scaleDecimals(division)).toBe(decimals),
  );

  it('calls two values one reading inside the tolerance only', () => {
    expect(sameReading(controlOf('cutoff'), 0.35, 0.374)).toBe(true);
    expect(sameReading(controlOf('cutoff'), 0.35, 0.376)).toBe(false);
    expect(sameReading(controlOf('osc1-shape'), 'saw', 'sine')).toBe(false);
  });

  it('nudges by what can be read, and stays inside', () => {
    expect(nudge(controlOf('cutoff'), 0.37, 1)).toBeCloseTo(0.38, 9);
    expect(nudge(controlOf('osc2-fine'), 0.75, -1)).toBeCloseTo(0.75 - 2.5 / 300, 9);
    expect(nudge(controlOf('cutoff'), 1, 5)).toBe(1);
    expect(nudge(controlOf('cutoff'), 0, -1)).toBe(0);
    expect(nudge(controlOf('osc1-shape'), 'saw', 1)).toBe('pulse');
    expect(nudge(controlOf('osc1-shape'), 'saw', -1)).toBe('saw');
    expect(nudge(display, 0.412, 1)).toBeCloseTo(0.413, 9);
  });

  it('snaps to readings that are told short', () => {
    for (const control of sluice.controls) {
      if (isSwitched(control)) continue;
      for (const p of [0.111, 0.3333, 0.5, 0.777]) {
        expect(formatValue(control, snap(control, p)).length).toBeLessThanOrEqual(8);
      }
    }
  });
});

describe('readings', () => {
  it('shows what the panel shows', () => {
    expect(formatValue(controlOf('osc2-fine'), 0.75)).toBe('2:30');
    expect(formatValue(controlOf('cutoff'), 0.65)).toBe('6.5');
    expect(formatValue(controlOf('filter-amount'), 0.5)).toBe('0');
    expect(formatValue(controlOf('osc1-width'), 0.18)).toBe('18%');
    expect(formatValue(controlOf('wheel'), 0.255)).toBe('25.5%');
    expect(formatValue(display, 0.412)).toBe('412');
    expect(formatValue(controlOf('osc1-octave'), 'f16')).toBe("16'");
  });

  it('says what it means in hertz, seconds, octaves', () => {
    expect(physicalValue(controlOf('cutoff'), 0.35)?.text).toBe('224 Hz');
    expect(physicalValue(controlOf('filter-amount'), 0.81)?.text).toBe('+3.1 oct');
    expect(physicalValue(controlOf('env1-attack'), 0.5)?.text).toBe('100 ms');
    expect(physicalValue(controlOf('osc1-shape'), 'saw')).toBeUndefined();
    expect(formatPhysical(1654, 'Hz')).toBe('1.65 kHz');
    expect(formatPhysical(2.5, 's')).toBe('2.5 s');
    expect(formatPhysical(0.5, 'x')).toBe('×0.5 (-6.02 dB)');
    expect(formatPhysical(0, 'x')).toBe('×0');
  });
});
