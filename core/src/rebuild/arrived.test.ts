import fc from 'fast-check';
import { controlHeard } from '../instrument/heard';
import type { Control, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { formatValue } from '../reading/format';
import { estuary } from '../testing/panels';
import { runs } from '../testing/runs';
import { arrivedAt, astray, heardApart } from './arrived';

const sending = estuary.controls.filter((c) => c.cc !== undefined);

describe('a control that is heard', () => {
  it('arrives at a reading that is finer than 128 values tell', () => {
    const sustain = sending.find((c) => c.id === 'env2-sustain')!;
    // 0.1 %, between what 0 and what 1 stand for.
    const goal = { kind: 'set', value: 0.0005000010000000001 } as const;
    expect(arrivedAt(sustain, goal, controlHeard([sustain], sustain.cc!, 0)!.value)).toBe(true);
    expect(arrivedAt(sustain, goal, controlHeard([sustain], sustain.cc!, 2)!.value)).toBe(false);
  });

  it('arrives at every goal there is, by some of its 128 values', () => {
    expect(sending.length).toBeGreaterThan(50);
    const goal: fc.Arbitrary<{ control: Control; value: Value }> = fc
      .constantFrom(...sending)
      .chain((control) =>
        fc.record({
          control: fc.constant(control),
          value: isSwitched(control)
            ? fc.constantFrom<Value>(...control.positions.map((p) => p.id))
            : fc.double({ min: 0, max: 1, noNaN: true }),
        }),
      );
    fc.assert(
      fc.property(goal, ({ control, value }) => {
        const found = Array.from({ length: 128 }, (_, sent) => sent).filter((sent) =>
          arrivedAt(
            control,
            { kind: 'set', value },
            controlHeard(sending, control.cc!, sent)!.value,
          ),
        );
        expect(found.length).toBeGreaterThan(0);
        // And only near it: they follow one another.
        expect(found.at(-1)! - found[0]!).toBe(found.length - 1);
      }),
      { numRuns: runs(100, 1000) },
    );
  });

  it('does anywhere in a range, and never where only the ear knows', () => {
    const cutoff = sending.find((c) => c.id === 'resonance')!;
    const range = { kind: 'range', from: 0.4, to: 0.6, best: 0.5 } as const;
    expect([0.39, 0.4, 0.55, 0.6, 0.65].map((v) => arrivedAt(cutoff, range, v))).toEqual([
      false,
      true,
      true,
      true,
      false,
    ]);
    expect(arrivedAt(cutoff, { kind: 'ear', target: 'until it sings', near: 0.5 }, 0.5)).toBe(
      false,
    );
    expect(formatValue(cutoff, 0.5)).toBe('5');
  });
});

describe('controls that are astray', () => {
  const [a, b, c] = sending.filter((one) => !isSwitched(one));
  const at = (value: number) => ({ kind: 'set' as const, value });
  const sent = new Map([
    [a!.cc!, 127],
    [b!.cc!, 64],
    [c!.cc!, 0],
  ]);

  it('are those that were heard elsewhere than they shall stand, in the order of the panel', () => {
    const found = astray(
      estuary.controls,
      { [a!.id]: at(0), [b!.id]: at(0.5), [c!.id]: at(1) },
      sent,
    );
    expect(found.map((one) => [one.control.id, one.value, one.shall])).toEqual([
      [a!.id, 1, at(0)],
      [c!.id, 0, at(1)],
    ]);
  });

  it('are none of which the patch says nothing, or only the ear knows, or that nobody has heard', () => {
    const ear = { kind: 'ear', target: 'until it sings', near: 0 } as const;
    expect(astray(estuary.controls, {}, sent)).toEqual([]);
    expect(astray(estuary.controls, { [a!.id]: ear }, sent)).toEqual([]);
    expect(astray(estuary.controls, { [a!.id]: at(0) }, new Map())).toEqual([]);
  });

  it('are apart also where the patch says nothing, or only the ear knows', () => {
    const ear = { kind: 'ear', target: 'until it sings', near: 0.5 } as const;
    const settings = { [a!.id]: at(1), [b!.id]: ear };
    const apart = heardApart(estuary.controls, settings, sent);
    expect(apart.map((one) => [one.control.id, one.value])).toEqual([
      [b!.id, 0.5],
      [c!.id, 0],
    ]);
  });

  it('stand right once they are heard to be where a rebuild says that they have arrived', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...sending.filter((one) => !isSwitched(one))),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.nat(127),
        (control, value, last) => {
          const shall = at(value);
          const heard = controlHeard(sending, control.cc!, last)!;
          const [one] = astray(
            estuary.controls,
            { [control.id]: shall },
            new Map([[control.cc!, last]]),
          );
          expect(one === undefined).toBe(arrivedAt(control, shall, heard.value));
        },
      ),
      { numRuns: runs(100, 1000) },
    );
  });
});
