import { readFileSync } from 'node:fs';
import { instrumentSchema } from '../instrument/schema';
import { checkPatch } from '../patch/check';
import { type Patch, patchSchema } from '../patch/schema';
import { curlew, estuary, patchOn } from '../testing/panels';
import { readSlot, slotName, storedName } from '../unit/memory';
import { type Unit, unitSchema } from '../unit/schema';
import { panelAfter, panelAtStart, planRebuild } from './plan';

const read = (path: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../library/${path}.json`, import.meta.url), 'utf8'));
const eelpot = instrumentSchema.parse(read('instruments/oxbow-eelpot'));
const line = patchSchema.parse(read('patches/eel-run-line'));
const pawl = patchSchema.parse(read('patches/winch-room-pawl'));
const sedge = instrumentSchema.parse(read('instruments/oxbow-sedge'));
const eight = patchSchema.parse(read('patches/eel-run-eight'));

describe('what goes into sequencers', () => {
  const plan = planRebuild(eelpot, panelAtStart(eelpot), line);
  const entered = plan.steps.filter((s) => s.kind === 'entry');

  it('is part of the rebuild, place by place, in its passes, and of its time', () => {
    expect(entered.map((s) => s.text)).toEqual([
      'Bar one into A1, go there',
      'Bar one into A1, pitches',
      'Bar one into A1, time',
      'Bar one into A1, accents and slides',
      'Bar one into A1, store it',
      'Bar one into A1, chain it',
      'Bar two into A2, go there',
      'Bar two into A2, pitches',
      'Bar two into A2, time',
      'Bar two into A2, accents and slides',
      'Bar two into A2, store it',
      'Bar two into A2, chain it',
    ]);
    expect(entered[1]!.told.slice(0, 4)).toEqual(['F2', 'F2', 'F3', 'F2']);
    const bare = planRebuild(eelpot, panelAtStart(eelpot), { ...line, patterns: [] });
    const took = entered.reduce((sum, s) => sum + s.seconds, 0);
    // One reach more: from the panel to the sequencer.
    expect(plan.seconds - bare.seconds - took).toBeCloseTo(0.5, 9);
  });

  it('is nothing once it is there, and only what differs from what is in the same place', () => {
    const done = panelAfter(panelAtStart(eelpot), plan, line, plan.steps.length);
    expect(planRebuild(eelpot, done, line).steps.filter((s) => s.kind !== 'listening')).toEqual([]);
    const [first] = line.patterns;
    const [track] = first!.tracks;
    const steps = track!.steps.map((s, i) => (i === 0 ? { ...s, notes: [43] } : s));
    const other = { ...line, patterns: [{ ...first!, tracks: [{ ...track!, steps }] }] };
    const changed = planRebuild(eelpot, done, other).steps.filter((s) => s.kind === 'entry');
    expect(changed.map((s) => s.told)).toEqual([['to A1'], ['1 G2'], ['store into A1']]);
  });

  it('goes into its own place beside what another patch has in others', () => {
    const from = { ...pawl, settings: line.settings };
    const steps = planRebuild(eelpot, from, line).steps.filter((s) => s.kind === 'entry');
    expect(steps.map((s) => s.id)).toEqual(entered.map((s) => s.id));
  });

  it('of rows whose steps are knobs stands right once the panel does', () => {
    const rows = planRebuild(sedge, panelAtStart(sedge), eight).steps;
    expect(rows.filter((s) => s.kind === 'entry')).toEqual([]);
  });
});

describe('storing', () => {
  const place = { bank: 1, slot: 3, name: 'Lock call' };
  const stored = (more = {}): Patch => ({ ...patchOn(estuary), stored: { ...place, ...more } });
  const unit = unitSchema.parse({
    instrument: estuary.id,
    name: 'the one with the cracked lamp',
    slots: [{ bank: 1, slot: 3, name: 'OLD HORN', needed: true }],
  });
  const texts = (patch: Patch, before = panelAtStart(estuary), on?: Unit): string[] =>
    planRebuild(estuary, before, patch, undefined, on).steps.flatMap((s) =>
      s.kind === 'store' ? [s.text] : [],
    );

  it('and naming are the last steps, letter by letter, and a place that is needed is asked about first', () => {
    const patch = stored();
    expect(checkPatch(patch, estuary)).toEqual([]);
    const plan = planRebuild(estuary, panelAtStart(estuary), patch);
    expect(plan.steps.at(-1)).toMatchObject({ kind: 'store', warning: '' });
    const name = storedName(estuary.memory, 'Lock call').text;
    expect(texts(patch)).toEqual([`Store in ${slotName(estuary.memory, 1, 3)}`, `Name it ${name}`]);
    const [ask] = texts(patch, panelAtStart(estuary), unit);
    expect(ask).toMatch(/OLD HORN.*needed: choose another place/);
    // A variation is played from where the patch is stored already.
    expect(texts(patch, patch)).toEqual([]);
  });

  it('is refused in places that there are not', () => {
    const pointers = (patch: Patch, on = estuary): string[] =>
      checkPatch(patch, on).map((p) => p.pointer);
    expect(pointers(stored({ bank: 100 }))).toEqual(['/stored/bank']);
    expect(pointers({ ...patchOn(curlew), stored: place }, curlew)).toEqual(['/stored']);
  });

  it('reads places as they are written', () => {
    const { memory } = estuary;
    for (const [bank, slot] of [
      [1, 1],
      [2, 7],
    ] as const)
      expect(readSlot(memory, slotName(memory, bank, slot))).toEqual({ bank, slot });
    expect(readSlot(memory, 'nowhere')).toBeUndefined();
    expect(readSlot(memory, 'A9999')).toBeUndefined();
    expect(readSlot({ kind: 'none' }, 'A1')).toBeUndefined();
  });
});
