import type { Instrument, Section } from './schema';
import { pitchHeardAfter, sectionsInOrder } from './order';

const withStages = (...stages: Section['stage'][]): Instrument =>
  ({ sections: stages.map((stage, i) => ({ id: `s${i}`, name: `S${i}`, stage })) }) as Instrument;

describe('sections', () => {
  it('come in the order of work, those of one stage as they are described', () => {
    const it = withStages('filter', 'oscillators', 'output', 'oscillators');
    expect(sectionsInOrder(it).map((s) => s.id)).toEqual(['s2', 's1', 's3', 's0']);
  });

  it('let a pitch be heard behind the last oscillators and mixers', () => {
    expect(pitchHeardAfter(withStages('filter', 'mixer', 'oscillators'))!.id).toBe('s1');
    expect(pitchHeardAfter(withStages('output', 'oscillators', 'oscillators'))!.id).toBe('s2');
    expect(pitchHeardAfter(withStages('filter', 'output'))!.id).toBe('s1');
    expect(pitchHeardAfter(withStages())).toBeUndefined();
  });
});
