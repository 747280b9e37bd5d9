import { checkInstrument, isSwitched } from '../instrument';
import { sluice } from '../testing/sluice';
import { instrumentDifferences } from '../outline/diff';
import {
  canTurn,
  firstBinding,
  jackPorts,
  turnables,
  withBindings,
  withJackPort,
  withUnheard,
} from './bind';

describe('what a control can turn', () => {
  it('is every parameter of the circuit, once, with who turns it already', () => {
    const all = turnables(sluice);
    expect(new Set(all.map((t) => `${t.module}.${t.param}`)).size).toBe(all.length);
    expect(all.find((t) => t.module === 'filter' && t.param === 'cutoff')).toMatchObject({
      by: 'cutoff',
      name: 'filter',
    });
  });

  it('can be bound to any control that fits, and the instrument is sound', () => {
    for (const turnable of turnables(sluice)) {
      for (const control of sluice.controls.filter((c) => canTurn(c, turnable))) {
        const bound = withBindings(sluice, control.id, [firstBinding(control, turnable)] as never);
        const faults = checkInstrument(bound);
        expect(faults).toEqual([]);
        expect(
          bound.controls
            .filter((c) =>
              c.bindings.some((b) => b.module === turnable.module && b.param === turnable.param),
            )
            .map((c) => c.id),
        ).toEqual([control.id]);
      }
    }
  });

  it('may be nothing that is heard, until something is bound to it', () => {
    const quiet = withUnheard(sluice, 'cutoff', true);
    const cutoff = quiet.controls.find((c) => c.id === 'cutoff')!;
    expect([cutoff.unheard, cutoff.bindings]).toEqual([true, []]);
    const turnable = turnables(quiet).find((t) => t.module === 'filter' && t.param === 'cutoff')!;
    const again = withBindings(quiet, 'cutoff', [firstBinding(cutoff, turnable)] as never);
    expect(again.controls.find((c) => c.id === 'cutoff')!.unheard).toBeUndefined();
    expect(isSwitched(cutoff)).toBe(false);
  });
});

describe('where a jack leads', () => {
  it('is a port on its side, those first that carry the same, and the instrument is sound', () => {
    for (const jack of sluice.jacks) {
      const ports = jackPorts(sluice, jack);
      expect(ports[0]!.fits).toBe(true);
      expect(ports.map((p) => p.port)).toContain(jack.port);
      for (const { port } of ports)
        expect(checkInstrument(withJackPort(sluice, jack.id, port))).toEqual([]);
    }
    expect(
      withJackPort(sluice, 'cutoff-in', '').jacks.find((j) => j.id === 'cutoff-in')!.port,
    ).toBe('');
  });
});

describe('what one version says and another does not', () => {
  it('is told of tapers, of what does nothing, of jacks and of the circuit', () => {
    const cutoff = sluice.controls.find((c) => c.id === 'cutoff')!;
    const turnable = turnables(sluice).find((t) => t.module === 'filter' && t.param === 'cutoff')!;
    const [first] = [firstBinding(cutoff, turnable)];
    const told = (after: typeof sluice): string[][] =>
      instrumentDifferences(sluice, after).map((d) => [d.subject, d.after]);
    const [[subject, after] = []] = told(withBindings(sluice, 'cutoff', [first] as never));
    expect([subject, after]).toEqual([
      'Filter cutoff',
      expect.stringContaining('turns filter cutoff 5 to 20000 Hz exponential'),
    ]);
    expect(told(withUnheard(sluice, 'glide', true))[0]![1]).toContain('does nothing that is heard');
    expect(told(withJackPort(sluice, 'cutoff-in', ''))[0]![1]).toContain('leads nowhere yet');
    const wires = sluice.circuit.wires.slice(1);
    expect(told({ ...sluice, circuit: { ...sluice.circuit, wires } })[0]).toEqual([
      'Circuit',
      expect.stringContaining(`${wires.length} wires`),
    ]);
    expect(instrumentDifferences(sluice, sluice)).toEqual([]);
  });
});
