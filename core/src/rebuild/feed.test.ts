import { readFileSync } from 'node:fs';
import { compile } from '../circuit/compile';
import { edgesInto, FEED, nodeOf } from '../circuit/graph';
import { panelOf } from '../instrument/panel-of';
import { instrumentSchema } from '../instrument/schema';
import { carryOver } from '../patch/carry/carry';
import { exchangeModule, takeModule } from '../patch/rearrange';
import { panelAtStart, planRebuild } from './plan';
import { checkPatch } from '../patch/check';
import { blankPatch } from '../patch/create';
import type { Feed } from '../patch/feed';
import { fedSoundOf } from '../patch/fed-sound';
import { type Patch, patchSchema } from '../patch/schema';

const curlew = instrumentSchema.parse(
  JSON.parse(
    readFileSync(
      new URL('../../../library/instruments/staithe-curlew.json', import.meta.url),
      'utf8',
    ),
  ),
);
const cabinet = instrumentSchema.parse(
  JSON.parse(
    readFileSync(
      new URL('../../../library/instruments/oxbow-lockgate.json', import.meta.url),
      'utf8',
    ),
  ),
);
const lockgate = panelOf(cabinet);
const feed: Feed = {
  sound: 'a'.repeat(64),
  name: 'two bars of rain',
  jack: 'j-ext',
  start: 'key',
  round: false,
  level: 0.4,
};
const patch: Patch = { ...blankPatch(curlew, 'fed'), feed };
const problems = (of: Patch) => checkPatch(of, curlew).map((p) => `${p.pointer}: ${p.message}`);

describe('a recording that a patch is fed with', () => {
  it('is kept in its file, with what it does not say filled in', () => {
    const { sound, name, jack } = feed;
    const read = patchSchema.parse({ ...patch, feed: { sound, name, jack } });
    expect(read.feed).toEqual({ ...feed, start: 'running', round: true, level: 0.5 });
    expect(patchSchema.safeParse({ ...patch, feed: { ...feed, sound: 'rain.wav' } }).success).toBe(
      false,
    );
  });

  it('leads where its jack leads, as a plug would', () => {
    const graph = compile(curlew, patch);
    expect(nodeOf(graph, FEED)).toMatchObject({ kind: 'external', name: 'two bars of rain' });
    expect(nodeOf(graph, FEED).params).toMatchObject({ level: 0.4 });
    expect(edgesInto(graph, 'mix', 'in4').map((e) => e.from)).toEqual([
      { node: FEED, port: 'out' },
    ]);
    expect(graph.feed).toBeUndefined();
    const samples = fedSoundOf([new Float32Array(4)], 48000)!;
    expect(compile(curlew, { ...patch, fed: samples }).feed).toEqual({
      ...samples,
      start: 'key',
      round: false,
    });
  });

  it('breaks what is wired to the jack inside', () => {
    const normal = curlew.circuit.wires.find((w) => w.normalOf !== undefined)!;
    const into = { ...feed, jack: normal.normalOf! };
    const [node, port] = normal.to.split('.') as [string, string];
    const before = edgesInto(compile(curlew, blankPatch(curlew, 'bare')), node, port);
    const after = edgesInto(compile(curlew, { ...patch, feed: into }), node, port);
    expect(before.map((e) => e.from.node)).toContain(normal.from.split('.')[0]);
    expect(after.map((e) => e.from.node)).toEqual([FEED]);
  });

  it('needs an input that is there', () => {
    expect(problems(patch)).toEqual([]);
    expect(problems({ ...patch, feed: { ...feed, jack: 'nowhere' } })).toEqual([
      expect.stringMatching(/^\/feed\/jack: .* has no input "nowhere"\.$/),
    ]);
    const out = curlew.jacks.find((j) => j.direction === 'out')!;
    expect(problems({ ...patch, feed: { ...feed, jack: out.id } })).toHaveLength(1);
  });

  it('is part of the rebuild: what is plugged in, what is fed, what is taken out', () => {
    const told = (from: Feed | undefined, to: Feed | undefined): string[] => {
      const start = { ...panelAtStart(curlew), ...(from ? { feed: from } : {}) };
      const goal = { ...blankPatch(curlew, 'goal'), ...(to ? { feed: to } : {}) };
      return planRebuild(curlew, start, goal).steps.flatMap((s) =>
        s.kind === 'outboard' ? [s.text] : [],
      );
    };
    expect(told(undefined, feed)).toEqual([
      'Plug a player into the jack ext',
      'Feed in "two bars of rain", started by each key, once, up to 4.0 V',
    ]);
    expect(told(feed, feed)).toEqual([]);
    expect(told(feed, { ...feed, round: true })).toEqual([
      'Feed in "two bars of rain", started by each key, round and round, up to 4.0 V',
    ]);
    expect(told(feed, undefined)).toEqual(['Take what is fed in out of the jack ext']);
  });

  it('goes with the module that it is fed into, and follows one that is exchanged', () => {
    const into = lockgate.jacks.find((j) => j.id === 'ladder-1-in')!;
    const out = lockgate.jacks.find((j) => j.id === 'ladder-1-out')!;
    const cabled: Patch = {
      ...blankPatch(cabinet, 'fed'),
      feed: { ...feed, jack: into.id },
      outlet: out.id,
    };
    expect(checkPatch(cabled, cabinet)).toEqual([]);
    const taken = takeModule(cabinet, cabled, 'ladder-1');
    expect([taken.feed, taken.outlet]).toEqual([undefined, undefined]);
    expect(checkPatch(taken, cabinet)).toEqual([]);
    const other = exchangeModule(cabinet, cabled, 'ladder-1', 'ladder');
    expect(other.feed?.jack).toMatch(/^ladder-\d+-in$/);
    expect(other.feed?.jack).not.toBe(into.id);
    expect(checkPatch(other, cabinet)).toEqual([]);
    // A module elsewhere leaves it alone.
    expect(takeModule(cabinet, cabled, 'invert-1').feed).toEqual(cabled.feed);
  });

  it('follows its jack onto a newer description, and is lost with it', () => {
    const renamed = {
      ...curlew,
      jacks: curlew.jacks.map((j) => (j.id === 'j-ext' ? { ...j, id: 'j-outside' } : j)),
    };
    expect(carryOver(curlew, renamed, patch, 2).patch.feed?.jack).toBe('j-outside');
    const without = { ...curlew, jacks: curlew.jacks.filter((j) => j.id !== 'j-ext') };
    const lost = carryOver(curlew, without, patch, 2);
    expect(lost.patch.feed).toBeUndefined();
    expect(lost.open).toEqual([]);
    expect(lost.items.some((i) => i.how === 'lost' && /no input/.test(i.after))).toBe(true);
  });
});
