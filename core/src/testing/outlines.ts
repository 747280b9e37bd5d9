import fc from 'fast-check';
import { stageSchema } from '../instrument/schema';
import { jackSignalSchema } from '../instrument/jack';
import type { Outline, OutlineControl, OutlineJack, OutlineSection } from '../outline';

const word = fc.stringMatching(/^[a-z][a-z0-9']{0,9}$/).filter((w) => w !== 'as' && w !== 'via');
const name = fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
const number = fc.integer({ min: -9999, max: 9999 }).map((n) => n / 10);
const without = <T extends object>(item: T): T =>
  Object.fromEntries(Object.entries(item).filter(([, value]) => value !== undefined)) as T;
const maybe = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
  fc.option(of, { nil: undefined });

const marks = fc
  .tuple(fc.uniqueArray(number, { minLength: 2, maxLength: 6 }), fc.boolean(), fc.boolean())
  .map(([values, down, even]) => {
    const sorted = values.sort((a, b) => (down ? b - a : a - b));
    return sorted.map((value, i) => {
      const share = i / (sorted.length - 1);
      return { at: even ? share : share * share, value };
    });
  });

/** Whether numbers are written in two units: some below 1 s or 1 kHz, some above. */
function isParted(all: readonly { value: number }[], unit: string | undefined): boolean {
  const border = unit === 's' ? 1 : unit === 'Hz' ? 1000 : NaN;
  const below = all.filter(({ value }) => Math.abs(value) < border).length;
  return below > 0 && below < all.length && border > 0;
}

const route = fc.array(word, { minLength: 1, maxLength: 4 });
const knob: fc.Arbitrary<OutlineControl> = fc
  .record({
    name,
    kind: maybe(fc.constantFrom('knob', 'slider', 'encoder', 'menu', 'wheel', 'pedal')),
    marks: maybe(marks),
    unit: maybe(fc.constantFrom('Hz', 's', 'cents', '%', 'V', 'dB')),
    rest: maybe(fc.boolean()),
    route: maybe(route),
    amount: maybe(fc.boolean()),
    display: maybe(fc.boolean()),
    step: maybe(fc.constantFrom(0.5, 5)),
    word: maybe(word),
    parted: fc.boolean(),
  })
  .map(({ rest, unit, display, step, word: shown, parted, ...control }) =>
    without({
      ...control,
      ...(control.marks ? { unit, display, step } : {}),
      ...(control.marks && shown ? { words: [{ at: control.marks[0]!.value, word: shown }] } : {}),
      ...(control.marks && parted && isParted(control.marks, unit)
        ? { writtenIn: unit === 's' ? 'ms and s' : 'Hz and kHz' }
        : {}),
      rest: rest ? (control.marks ? String(control.marks[0]!.value) : '40%') : undefined,
    } as OutlineControl),
  );
const rotary: fc.Arbitrary<OutlineControl> = fc
  .record({
    name,
    kind: maybe(fc.constantFrom('rotary', 'toggle', 'button')),
    positions: fc
      .uniqueArray(word, { minLength: 2, maxLength: 6 })
      .filter((all) => !/^(rotary|toggle|button|switch)$/.test(all.at(-1)!)),
    rest: maybe(fc.boolean()),
    route: maybe(route),
  })
  .map(({ rest, ...control }) =>
    without({ ...control, rest: rest ? control.positions.at(-1)! : undefined } as OutlineControl),
  );
const jack: fc.Arbitrary<OutlineJack> = fc
  .record({
    name,
    direction: fc.constantFrom('in', 'out'),
    signal: maybe(fc.constantFrom(...jackSignalSchema.options)),
    standard: maybe(fc.constantFrom('V/oct', 'Hz/V')),
  })
  .map((made) => without(made as OutlineJack));

const section: fc.Arbitrary<OutlineSection> = fc
  .record({
    name,
    stage: maybe(fc.constantFrom(...stageSchema.options)),
    controls: fc.array(
      fc.tuple(fc.oneof(knob, rotary), fc.boolean()).map(([c, second]) => ({ control: c, second })),
      { maxLength: 12 },
    ),
    jacks: fc.array(jack, { maxLength: 5 }),
  })
  .map(({ controls, ...rest }) =>
    without({
      ...rest,
      // A second function has something to share its knob with.
      controls: controls.map(({ control, second }, i) =>
        second && i > 0 ? { ...control, second: true } : control,
      ),
    } as OutlineSection),
  );

/** Panels in words, of all that an outline can say. */
export const anyOutline: fc.Arbitrary<Outline> = fc.record({
  name,
  maker: fc.oneof(fc.constant(''), name),
  sections: fc.uniqueArray(section, { maxLength: 9, selector: (s) => s.name }),
});

/** Some controls send a controller number, each its own; modules send none. */
const sending = (sections: OutlineSection[], flags: readonly boolean[]): OutlineSection[] => {
  let cc = 0;
  let n = 0;
  return sections.map((s) =>
    s.module
      ? s
      : {
          ...s,
          controls: s.controls.map((c) =>
            flags[n++ % flags.length] && cc < 120 ? { ...c, cc: cc++ } : c,
          ),
        },
  );
};

/** Panels in words, some of whose sections are modules that stand in rows. */
export const anyCabinet: fc.Arbitrary<Outline> = fc
  .tuple(
    anyOutline,
    fc.array(fc.boolean(), { minLength: 9, maxLength: 9 }),
    fc.array(fc.boolean(), { minLength: 1, maxLength: 20 }),
    fc.array(fc.array(fc.nat({ max: 8 }), { maxLength: 6 }), { maxLength: 4 }),
  )
  .map(([outline, flags, sends, picks]) => {
    const told = outline.sections.map((s, i) => {
      if (!flags[i]) return s;
      const { name: own, ...rest } = s;
      return { name: own, module: true as const, ...rest };
    });
    const sections = sending(told, sends);
    const modules = sections.flatMap((s) => (s.module ? [s.name] : []));
    if (modules.length === 0 || picks.length === 0) return { ...outline, sections };
    const rows = picks.map((row) => row.map((n) => modules[n % modules.length]!));
    return { ...outline, sections, rows };
  });
