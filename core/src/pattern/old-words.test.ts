import { sluice } from '../testing/sluice';
import { instrumentSchema } from '../instrument';
import { parsePatternText } from '../sequence/pattern-text';
import { patternSchema } from './pattern';

describe('files of before own values were called so', () => {
  const step = { notes: [36], locks: { cutoff: 0.5 } };
  const pattern = { id: 'a', name: 'A', tracks: [{ id: 't', name: 'T', steps: [step] }] };

  it('are read, and written with the new word', () => {
    const read = patternSchema.parse(pattern);
    expect(read.tracks[0]?.steps[0]).toEqual({ notes: [36], ownValues: { cutoff: 0.5 } });
    expect(patternSchema.parse(read)).toEqual(read);
  });

  it('are refused for a wrong value under its old name', () => {
    const wrong = structuredClone(pattern);
    wrong.tracks[0]!.steps[0]!.locks.cutoff = 3;
    const { error } = patternSchema.safeParse(wrong);
    expect(error?.issues[0]?.path).toEqual(['tracks', 0, 'steps', 0, 'locks', 'cutoff']);
  });

  it('are read as text too', () => {
    const text = (word: string) => `pattern a: A\ntrack t: T\n  c2\n  ${word} cutoff 1=0.5`;
    expect(parsePatternText(text('lock'))).toEqual(parsePatternText(text('own')));
  });

  it('of instruments say what steps can give values of their own', () => {
    const sequencer = {
      id: 'box',
      name: 'Box',
      kind: 'multi-track',
      steps: 16,
      tracks: [{ id: 'one', name: 'One', from: 36, to: 36 }],
      can: { locks: ['cutoff'] },
    };
    const { sequencers } = instrumentSchema.parse({ ...sluice, sequencers: [sequencer] });
    expect(sequencers[0]?.can).toEqual({ ownValues: ['cutoff'] });
  });

  it('of instruments name kinds of modules as they were called', () => {
    const circuit = structuredClone(sluice.circuit);
    const wheel = circuit.modules.find((m) => m.kind === 'controller')!;
    wheel.kind = 'lever';
    expect(instrumentSchema.parse({ ...sluice, circuit }).circuit).toEqual(sluice.circuit);
  });
});
