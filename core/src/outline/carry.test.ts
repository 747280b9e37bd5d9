import fc from 'fast-check';
import { hasCircuit, keepsMeaning, pairControls } from '../instrument';
import { blankPatch, carryOver, checkPatch, isUnanswered, type Patch } from '../patch';
import { formatSetting } from '../reading/format';
import { parseReading } from '../reading/parse';
import { anyOutline } from '../testing/outlines';
import { runs } from '../testing/runs';
import { sluice } from '../testing/sluice';
import { instrumentOf } from './instrument';
import { readOutline } from './read';

const panel = (text: string) => instrumentOf(readOutline(text).outline, text);
const was = panel(`Heron by Saltpan

Filter:
cutoff 0..10
resonance 0..10
mode low/band/high
< cv
Envelope:
attack 0..10
decay 0..10`);

/** A patch with readings as one says them. */
function recorded(readings: Record<string, string>, more: Partial<Patch> = {}): Patch {
  const settings = Object.entries(readings).map(([id, text]) => {
    const read = parseReading(
      text,
      was.controls.find((c) => c.id === id)!,
    );
    if (!read.ok || !read.setting) throw new Error(`${id}: ${text}`);
    return [id, read.setting] as const;
  });
  return { ...blankPatch(was, 'Quay'), settings: Object.fromEntries(settings), ...more };
}
const told = (text: string, patch: Patch, answers = {}) => {
  const now = panel(text);
  const { patch: after, items, open } = carryOver(was, now, patch, 2, answers);
  expect(open).toEqual([]);
  expect(checkPatch(after, now)).toEqual([]);
  expect(after.edition).toBe(2);
  const readings = Object.fromEntries(
    Object.entries(after.settings).map(([id, s]) => [
      id,
      formatSetting(
        now.controls.find((c) => c.id === id)!,
        s,
      ),
    ]),
  );
  return { items, readings, after, told: items.map((i) => [i.how, i.subject, i.after]) };
};
const reading = { 'filter-cutoff': '3.5', 'filter-mode': 'band', 'envelope-attack': '2 to 3' };

describe('a patch carried over to a panel described anew', () => {
  it('keeps its readings where a scale was drawn anew', () => {
    const { readings, told: said } = told(
      `Heron by Saltpan\n\nFilter:\ncutoff -5..5\nresonance 0..10\nmode low/band/high\nEnvelope:\nattack 0..20\ndecay 0..10`,
      recorded(reading),
    );
    expect(readings).toEqual({
      'filter-cutoff': '3.5',
      'filter-mode': 'band',
      'envelope-attack': '2–3, best 2.5',
    });
    expect(said).toEqual([
      ['rescaled', 'Filter cutoff', '-5 to 5'],
      ['rescaled', 'Envelope attack', '0 to 20'],
    ]);
  });

  it('follows what was renamed or moved, and takes notes and ends along', () => {
    const {
      readings,
      told: said,
      after,
    } = told(
      `Heron by Saltpan\n\nFilter:\nbrightness 0..10\nmode low/band/high\nresonance 0..10\nEnvelope:\ndecay 0..10\nShape:\nattack 0..10`,
      recorded(reading, {
        notes: { 'control:envelope-attack': 'slow' },
        ends: { 'filter-cutoff': { low: 'dark', high: 'bright' } },
      }),
    );
    expect(readings).toEqual({
      'filter-brightness': '3.5',
      'filter-mode': 'band',
      'shape-attack': '2–3, best 2.5',
    });
    expect(said).toEqual([
      ['renamed', 'Filter cutoff', 'Filter brightness'],
      ['moved', 'Envelope attack', 'Shape attack'],
    ]);
    expect(after.notes).toEqual({ 'control:shape-attack': 'slow' });
    expect(Object.keys(after.ends)).toEqual(['filter-brightness']);
  });

  it('asks what it cannot know, and does as it is told', () => {
    const text = `Heron by Saltpan\n\nFilter:\ntone 0..10\ncolour 0..10\nmode low/notch/high\nEnvelope:\nattack 0..2.5\ndecay 0..10`;
    const patch = recorded({ ...reading, 'filter-resonance': '8', 'envelope-attack': '6' });
    const open = told(text, patch);
    expect(open.items.filter(isUnanswered).map((i) => i.key)).toEqual([
      'control:filter-cutoff',
      'control:filter-resonance',
      'position:filter-mode.band',
      'reading:envelope-attack',
    ]);
    expect(open.readings).toEqual({});
    const answered = told(text, patch, {
      'control:filter-cutoff': 'filter-colour',
      'control:filter-resonance': 'out',
      'position:filter-mode.band': 'notch',
      'reading:envelope-attack': 'nearest',
    });
    expect(answered.items.some(isUnanswered)).toBe(false);
    expect(answered.readings).toEqual({
      'filter-colour': '3.5',
      'filter-mode': 'notch',
      'envelope-attack': '2.5',
    });
    const travel = told(text, patch, { 'reading:envelope-attack': 'travel' });
    expect(travel.readings['envelope-attack']).toBe('1.5');
  });

  it('tells what has no place any more', () => {
    const jack = was.jacks[0]!;
    const { told: said, after } = told(
      `Heron by Saltpan\n\nFilter:\nresonance 0..10\nmode low/band/high\nEnvelope:\nattack 0..10\ndecay 0..10`,
      recorded(reading, { cables: [{ id: 'a', to: jack.id }] }),
    );
    expect(said.map(([how, subject]) => [how, subject])).toEqual([
      ['lost', 'Filter cutoff'],
      ['lost', 'Cable free end to cv'],
    ]);
    expect(after.cables).toEqual([]);
  });

  it('always fits the panel, whatever panels they are, and is the same where nothing changed', () => {
    fc.assert(
      fc.property(
        anyOutline,
        anyOutline,
        fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })),
        (a, b, travel) => {
          const [before, after] = [instrumentOf(a, ''), instrumentOf(b, '')];
          const settings = Object.fromEntries(
            before.controls.map((c) => {
              const at = travel.next().value;
              const value =
                'positions' in c ? c.positions[Math.floor(at * (c.positions.length - 1))]!.id : at;
              return [c.id, { kind: 'set' as const, value }];
            }),
          );
          const patch = { ...blankPatch(before, 'Any'), settings };
          const id = after.id;
          const carried = carryOver(before, { ...after, id: before.id }, patch, 2);
          expect(checkPatch({ ...carried.patch, instrument: id }, after)).toEqual([]);
          expect(carryOver(before, before, patch, 1).patch.settings).toEqual(settings);
          expect(pairControls(before, after).map((p) => p.before)).toEqual(
            before.controls.map((c) => c.id),
          );
        },
      ),
      { numRuns: runs(60) },
    );
  });
});

describe('what was recorded means the same', () => {
  it('when something is added, moved about, or told of the circuit for the first time', () => {
    const more = panel(`${was.outline}\nsustain 0..10`);
    expect(keepsMeaning(was, more)).toBe(true);
    expect(keepsMeaning(more, was)).toBe(false);
    const bare = {
      ...sluice,
      circuit: { modules: [], wires: [] },
      controls: sluice.controls.map((c) => ({ ...c, bindings: [] }) as typeof c),
    };
    expect([hasCircuit(bare), keepsMeaning(bare, sluice)]).toEqual([false, true]);
    const elsewhere = sluice.controls.map((c) => ({
      ...c,
      place: { ...c.place, x: c.place.x + 1 },
    }));
    expect(keepsMeaning(sluice, { ...sluice, controls: elsewhere })).toBe(true);
  });

  it('not when a scale, a position, a jack or the sound becomes another', () => {
    const text = was.outline!;
    for (const other of [
      text.replace('cutoff 0..10', 'cutoff 0..5'),
      text.replace('low/band/high', 'low/notch/high'),
      text.replace('< cv', '> cv'),
      text.replace('decay 0..10', 'fall 0..10'),
    ])
      expect(keepsMeaning(was, panel(other))).toBe(false);
    const wires = sluice.circuit.wires.slice(1);
    expect(keepsMeaning(sluice, { ...sluice, circuit: { ...sluice.circuit, wires } })).toBe(false);
  });
});

describe('what turns something', () => {
  const values = { low: 'series', band: 'parallel', high: 'series' };
  const bound = {
    ...was,
    circuit: {
      modules: [
        { id: 'pair', kind: 'filter-pair', params: {} },
        { id: 'output', kind: 'output', params: {} },
      ],
      wires: [],
    },
    controls: was.controls.map((c) => ({
      ...c,
      bindings: 'positions' in c ? [{ module: 'pair', param: 'routing', values }] : [],
    })) as typeof was.controls,
  };
  const redone = (text: string) => instrumentOf(readOutline(text).outline, text, bound);

  it('keeps its id and its binding when it or one of its positions is renamed, or it is moved', () => {
    for (const other of [
      was.outline!.replace('mode low', 'kind low'),
      was.outline!.replace('low/band/high', 'low/middle/high'),
      was
        .outline!.replace('mode low/band/high\n', '')
        .replace('decay', 'mode low/band/high\ndecay'),
    ]) {
      const control = redone(other).controls.find((c) => c.id === 'filter-mode')!;
      expect(control.bindings).toHaveLength(1);
      expect('positions' in control && control.positions.map((p) => p.id)).toEqual([
        'low',
        'band',
        'high',
      ]);
    }
  });
});
