import { catalogue, type ModuleKind, moduleSpec } from '../../catalogue';
import { benchGraph, held, record } from '../../testing/bench';

/** Every kind that mixes what it makes with what comes in. */
const kinds = (Object.keys(catalogue) as ModuleKind[]).filter((kind) => {
  const { inputs, params } = moduleSpec(kind);
  const { mix } = params;
  return Object.hasOwn(inputs, 'in') && mix?.kind === 'number' && mix.lo === 0 && mix.neutral === 0;
});

describe('What is mixed in by nothing', () => {
  it('is spoken of effects', () => expect(kinds.length).toBeGreaterThan(6));

  it.each(kinds)('%s: every other parameter leaves every sample as it is', (kind) => {
    const play = (params: Record<string, number | string>): Float64Array => {
      const graph = benchGraph(
        {
          keys: ['keyboard'],
          osc: ['oscillator'],
          fx: [kind, { ...params, mix: 0 }],
          out: ['output'],
        },
        ['keys.pitch1 > osc.pitch', 'osc.out > fx.in', 'fx.out > out.in'],
        'out',
      );
      return record(graph, 'fx.out', 0.2, { notes: [held(57)] });
    };
    const plain = play({});
    for (const [name, spec] of Object.entries(moduleSpec(kind).params)) {
      if (name === 'mix') continue;
      const ends = spec.kind === 'number' ? [spec.lo, spec.hi] : spec.choices;
      for (const value of ends) {
        const turned = play({ [name]: value });
        const differs = turned.findIndex((v, i) => v !== plain[i]);
        expect([name, value, differs]).toEqual([name, value, -1]);
      }
    }
  });
});
