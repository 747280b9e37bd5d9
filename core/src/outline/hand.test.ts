import fc from 'fast-check';
import { checkInstrument, type Instrument } from '../instrument';
import { anyOutline } from '../testing/outlines';
import { runs } from '../testing/runs';
import { align, boxOf, covered, FLUSH, mirror, moveBy, resize, spread, type Thing } from './hand';
import { instrumentOf } from './instrument';
import type { Outline } from './outline';
import { readOutline } from './read';

const panel = (text: string, before?: Instrument) =>
  instrumentOf(readOutline(text).outline, text, before);
const text = `Heron by Saltpan

Filter:
cutoff 0..10
resonance 0..10
depth 0..10
< cv
Envelope:
attack 0..10 slider
decay 0..10 slider`;
const heron = panel(text);
const middleOf = (instrument: Instrument, thing: Thing) => {
  const { x, y, width, height } = boxOf(instrument, thing)!;
  return { x: x + width / 2, y: y + height / 2 };
};
const knobs: Thing[] = [
  'control:filter-cutoff',
  'control:filter-resonance',
  'control:filter-depth',
];
/** A sheet with room to move about. */
const roomy = moveBy(
  resize(heron, 'section:filter', { width: 500, height: 400 }),
  ['section:envelope'],
  { x: 600, y: 0 },
);

const all = ({ sections, controls, jacks }: Instrument): Thing[] => [
  ...sections.map((s): Thing => `section:${s.id}`),
  ...controls.map((c): Thing => `control:${c.id}`),
  ...jacks.map((j): Thing => `jack:${j.id}`),
];

describe('things moved by hand', () => {
  it('go where they are moved, together, and sections take what is in them along', () => {
    const moved = moveBy(roomy, knobs, { x: 40, y: 30 });
    for (const knob of knobs) {
      const [was, is] = [middleOf(roomy, knob), middleOf(moved, knob)];
      expect(is).toEqual({ x: was.x + 40, y: was.y + 30 });
    }
    expect(middleOf(moved, 'jack:filter-cv-in')).toEqual(middleOf(roomy, 'jack:filter-cv-in'));
    const whole = moveBy(roomy, ['section:filter', knobs[0]!], { x: 100, y: 0 });
    for (const thing of [...knobs, 'jack:filter-cv-in'] as Thing[])
      expect(middleOf(whole, thing).x).toBe(middleOf(roomy, thing).x + 100);
    const back = moveBy(whole, ['section:filter'], { x: -100, y: 0 });
    expect([back.sections, back.controls, back.jacks]).toEqual([
      roomy.sections,
      roomy.controls,
      roomy.jacks,
    ]);
  });

  it('stop together where one of them can go no further', () => {
    const moved = moveBy(roomy, knobs, { x: -1000, y: -1000 });
    const [a, b] = knobs.map((k) => middleOf(moved, k));
    expect(b!.x - a!.x).toBe(middleOf(roomy, knobs[1]!).x - middleOf(roomy, knobs[0]!).x);
    const box = boxOf(moved, knobs[0]!)!;
    expect(box.x).toBe(roomy.sections[0]!.x);
    expect(box.y).toBe(roomy.sections[0]!.y + 22);
  });

  it('are brought to one line, spaced evenly, and turned round', () => {
    let loose = moveBy(roomy, [knobs[1]!], { x: 37, y: 60 });
    loose = moveBy(loose, [knobs[2]!], { x: 150, y: 20 });
    const level = align(loose, knobs, 'middle');
    expect(new Set(knobs.map((k) => middleOf(level, k).y)).size).toBe(1);
    const even = spread(level, knobs, 'x');
    const [a, b, c] = knobs.map((k) => middleOf(even, k).x) as [number, number, number];
    expect(b - a).toBeCloseTo(c - b, 0);
    const turned = mirror(even, knobs, 'x');
    expect(knobs.map((k) => middleOf(turned, k).x)).toEqual([c, b, a]);
    expect(mirror(turned, knobs, 'x')).toEqual(even);
  });

  it('are told when they lie on each other', () => {
    expect(covered(heron)).toEqual([]);
    const { x, y } = middleOf(roomy, knobs[0]!);
    const to = middleOf(roomy, knobs[1]!);
    const over = moveBy(roomy, [knobs[0]!], { x: to.x - x, y: to.y - y });
    expect(covered(over)).toContainEqual([knobs[0], knobs[1]]);
  });

  it('never leave their section, their sheet, or what a file may hold, whatever is done to them', () => {
    const act = fc.record({
      which: fc.infiniteStream(fc.nat()),
      x: fc.integer({ min: -900, max: 900 }),
      y: fc.integer({ min: -900, max: 900 }),
      what: fc.constantFrom('move', 'align', 'spread', 'mirror', 'size'),
      edge: fc.constantFrom(...FLUSH),
    });
    fc.assert(
      fc.property(anyOutline, fc.array(act, { maxLength: 8 }), (outline, acts) => {
        let instrument = instrumentOf(outline, '');
        const things = all(instrument);
        if (things.length === 0) return;
        for (const { which, x, y, what, edge } of acts) {
          const taken = [0, 1, 2].map(() => things[which.next().value % things.length]!);
          const axis = edge === 'left' ? 'x' : 'y';
          if (what === 'move') instrument = moveBy(instrument, taken, { x, y });
          else if (what === 'align') instrument = align(instrument, taken, edge);
          else if (what === 'spread') instrument = spread(instrument, taken, axis);
          else if (what === 'mirror') instrument = mirror(instrument, taken, axis);
          else instrument = resize(instrument, taken[0]!, { size: x, width: x, height: y });
        }
        expect(checkInstrument(instrument)).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('a panel arranged by hand, described anew', () => {
  const moved = moveBy(roomy, ['control:filter-cutoff'], { x: 200, y: 200 });

  it('leaves everything where it was put, and finds room for what is new', () => {
    const more = panel(`${text}\nsustain 0..10 slider\nMix:\nosc 1 0..10`, moved);
    for (const thing of all(moved)) {
      if (!thing.startsWith('section'))
        expect(middleOf(more, thing)).toEqual(middleOf(moved, thing));
    }
    expect(covered(more)).toEqual([]);
    expect(checkInstrument(more)).toEqual([]);
    expect(more.panel.arranged).toBe(true);
  });

  it('covers nothing with what is new, whatever is typed', () => {
    fc.assert(
      fc.property(anyOutline, anyOutline, (first, second) => {
        const before = instrumentOf(first, '');
        const arranged = { ...before, panel: { ...before.panel, arranged: true as const } };
        const both: Outline = {
          ...first,
          sections: first.sections.map((s, i) => ({
            ...s,
            controls: [
              ...s.controls,
              ...(second.sections[i]?.controls ?? []).filter((c) => !c.second),
            ],
          })),
        };
        const next = instrumentOf(both, '', arranged);
        if (next.controls.length === before.controls.length) return;
        expect(checkInstrument(next)).toEqual([]);
        const kept = new Set(before.controls.map((c) => c.id));
        const hits = covered(next).filter(
          ([a, b]) => ![a, b].every((t) => kept.has(t.slice(t.indexOf(':') + 1))),
        );
        expect(hits).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
});
