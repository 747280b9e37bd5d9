import { drumBox, lineBox, notesOf, openPatch } from '../../testing/open-patch';

describe('patterns of the open patch', () => {
  it('begin as their box has them: one line, or all its tracks', () => {
    const line = openPatch(lineBox).sequence;
    line.add(lineBox.sequencers[0]!.id);
    expect(line.pattern()).toMatchObject({
      name: 'Pattern 1',
      sequencer: lineBox.sequencers[0]!.id,
    });
    expect(line.pattern()!.tracks).toHaveLength(1);
  });

  it('of drums have a track for each of the box, and sixteen at most from outside', () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    expect(sequence.pattern()!.tracks.map((t) => t.name)).toEqual([
      'kick',
      'snare',
      'hat',
      'shaker',
      'synth',
    ]);
    sequence.add(undefined);
    sequence.addTrack();
    expect(sequence.pattern()!.tracks.map((t) => t.id)).toEqual(['t1', 't2']);
  });

  it('take an edit that the box can do, and undo it exactly', () => {
    const { sequence, patch, undo } = openPatch(lineBox);
    sequence.add(lineBox.sequencers[0]!.id);
    const before = patch();
    sequence.go(0, 2);
    expect(sequence.editStep({ notes: [40], accent: true })).toBe(true);
    expect(notesOf(sequence.pattern())).toEqual([null, null, [40]]);
    undo();
    expect(patch()).toEqual(before);
  });

  it('refuse an edit that it cannot, with the nearest, which can be taken', () => {
    const { sequence } = openPatch(lineBox);
    sequence.add(lineBox.sequencers[0]!.id);
    expect(sequence.editStep({ notes: [96] })).toBe(false);
    expect(notesOf(sequence.pattern())).toEqual([]);
    expect(sequence.refused()!.refusals[0]!.reason).toMatch(/out of its reach/);
    sequence.takeNearest();
    expect(sequence.refused()).toBeNull();
    expect(notesOf(sequence.pattern())).toEqual([[60]]);
  });

  it('own value knobs and switches that the box lets steps move, and no others', () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    const names = new Map(sequence.movable().map((c) => [c.id, c.switched]));
    expect(names.get('hat-decay')).toBe(false);
    expect(names.get('syn-wave')).toBe(true);
    expect(sequence.editStep({ notes: [48], ownValues: { 'syn-wave': 'pulse' } })).toBe(true);
    const other = drumBox.controls.find((c) => !names.has(c.id))!;
    expect(sequence.editStep({ notes: [48], ownValues: { [other.id]: 0.5 } })).toBe(false);
    expect(sequence.refused()!.refusals[0]!.reason).toContain(`cannot move ${other.name}`);
  });

  it('copy steps from one pattern into another, and whole patterns', () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    sequence.editStep({ notes: [48] });
    sequence.go(0, 0, 2);
    sequence.copySteps();
    sequence.add('tracks');
    sequence.go(0, 4);
    sequence.paste();
    expect(notesOf(sequence.pattern())).toEqual([null, null, null, null, [48]]);
    sequence.clip.set({ kind: 'pattern', pattern: sequence.pattern()! });
    sequence.paste();
    expect(sequence.patterns().map((p) => p.name)).toEqual([
      'Pattern 1',
      'Pattern 2',
      'Pattern 2, copy',
    ]);
  });

  it('leave no chain behind that leads to a removed one', () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    const first = sequence.pattern()!;
    sequence.add('tracks');
    const second = sequence.pattern()!;
    sequence.edit({ ...second, next: first.id });
    sequence.choose(first.id);
    sequence.remove();
    expect(sequence.patterns()).toMatchObject([{ id: second.id }]);
    expect(sequence.patterns()[0]!.next).toBeUndefined();
  });
});
