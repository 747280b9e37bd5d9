import { FEED, type Graph, type GraphFeed } from '../../circuit/graph';
import { prune } from '../../circuit/prune';
import { benchGraph, held, record } from '../../testing/bench';
import { createEngine } from '../engine';
import { BLOCK } from '../kernel';

const RATE = 48000;
const ramp = (length: number): Float32Array => Float32Array.from({ length }, (_, i) => i / length);

/** A recording that leads to the output, at a quarter of full scale. */
function fed(sound: Partial<GraphFeed>, level = 0.25): Graph {
  const left = sound.left ?? ramp(1000);
  const feed: GraphFeed = {
    left,
    right: left,
    sampleRate: RATE,
    start: 'running',
    round: true,
    ...sound,
  };
  const graph = benchGraph(
    { [FEED]: ['external', { level }], out: ['output'] },
    [`${FEED}.out > out.in`],
    'out',
  );
  return { ...graph, feed };
}
const heard = (graph: Graph, seconds: number, notes = [held(60, 9)]): Float64Array =>
  record(graph, `${FEED}.out`, seconds, { sampleRate: RATE, notes });

describe('a recording that is fed in', () => {
  it('is itself at its own rate, in volts', () => {
    const sound = heard(fed({}), 0.02);
    for (let i = 0; i < 960; i++) expect(sound[i]).toBeCloseTo(2.5 * (i / 1000), 6);
  });

  it('goes round without a gap, or ends', () => {
    const round = heard(fed({}), 0.05);
    const once = heard(fed({ round: false }), 0.05);
    for (let i = 0; i < 2400; i++) {
      expect(round[i]).toBeCloseTo(2.5 * ((i % 1000) / 1000), 6);
      expect(once[i]).toBeCloseTo(i < 1000 ? 2.5 * (i / 1000) : 0, 6);
    }
  });

  it('of another rate lasts as long as it was, and is the same sound', () => {
    for (const rate of [44100, 22050, 96000]) {
      const hz = 441;
      const left = Float32Array.from({ length: rate }, (_, i) =>
        Math.sin((2 * Math.PI * hz * i) / rate),
      );
      const sound = heard(fed({ left, sampleRate: rate }), 1.5);
      let worst = 0;
      for (let i = 8; i < sound.length; i++)
        worst = Math.max(
          worst,
          Math.abs(sound[i]! - 2.5 * Math.sin((2 * Math.PI * hz * i) / RATE)),
        );
      // A cubic through four samples of a tone that is fifty of them long and more.
      expect([rate, worst < 0.002]).toEqual([rate, true]);
    }
  });

  it('rests until a key is pressed, and each key starts it anew', () => {
    const notes = [held(60, 0.004, 0.01), held(64, 0.004, 0.015)];
    const sound = heard(fed({ start: 'key' }), 0.05, notes);
    for (let i = 0; i < 2400; i++) {
      const since = i < 480 ? -1 : i < 720 ? i - 480 : i - 720;
      expect(sound[i]).toBeCloseTo(since < 0 ? 0 : 2.5 * ((since % 1000) / 1000), 6);
    }
  });

  it('goes on where it was when the circuit changes', () => {
    const options = { sampleRate: RATE, notes: [] };
    const before = createEngine(fed({}), options);
    for (let k = 0; k < 5; k++) before.advance(BLOCK);
    const after = createEngine(fed({}, 0.5), { ...options, after: before });
    after.advance(BLOCK);
    // Its level is on the way from the old to the new one.
    expect(after.port(FEED, 'out')[0]).toBeCloseTo(2.5 * ((5 * BLOCK) / 1000), 6);
  });

  it('is heard through a graph that was pruned', () => {
    const graph = prune(fed({}), [held(60)]);
    expect(heard(graph, 0.01)[200]).toBeCloseTo(0.5, 6);
  });

  it('is silence while its samples are not at hand', () => {
    const { feed: _, ...graph } = fed({});
    expect(Math.max(...heard(graph, 0.01))).toBe(0);
  });
});
