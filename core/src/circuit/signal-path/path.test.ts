import { phraseToNotes } from '../../pattern/timed';
import type { Instrument } from '../../instrument';
import { peakOf } from '../../measure/level';
import type { Patch } from '../../patch';
import { render } from '../../sound';
import { cabinet, curlew, estuary, patchOn } from '../../testing/panels';
import { initWith, sluice } from '../../testing/sluice';
import { compile } from '../compile';
import { foldPath, layersOf, onlyLayer, type Path, type PathShape, shapesOf } from './index';

const pathOf = (instrument: Instrument, patch: Patch): Path =>
  foldPath(compile(instrument, patch), phraseToNotes(patch.phrase, patch.tempo));
const shapes = (instrument: Instrument, patch: Patch): PathShape[] =>
  shapesOf(pathOf(instrument, patch), instrument, patch);
const kinds = (instrument: Instrument, patch: Patch): string[] =>
  shapes(instrument, patch).map((s) => s.kind);

describe('a folded path', () => {
  it('leaves out what is not heard, and draws attenuators into the ways', () => {
    const path = pathOf(sluice, initWith({ 'filter-amount': 0.8 }));
    expect(path.nodes.map((n) => n.id)).not.toContain('osc2');
    expect(path.nodes.map((n) => n.kind)).not.toContain('attenuator');
    const way = path.edges.find((e) => e.from === 'env2' && e.to === 'filter')!;
    // Fully right is a gain of 1 and 5 octaves: 0.8 of the travel is 0.6 of it.
    expect(way.gain).toBeCloseTo(0.6, 6);
    expect(way.through).toHaveLength(1);
  });

  it('runs from sources to the output, every way between nodes that are drawn', () => {
    const path = pathOf(estuary, patchOn(estuary, { 'delay-mix': 0.4 }));
    const ids = new Set(path.nodes.map((n) => n.id));
    for (const edge of path.edges) {
      expect([edge.from, ids.has(edge.from) && ids.has(edge.to)]).toEqual([edge.from, true]);
    }
    expect(path.nodes.find((n) => n.id === path.graph.output)!.family).toBe('output');
  });
});

const LAYERS =
  'kb-pitch>mult-2-in mult-2-o1>bank-1-pitch mult-2-o2>bank-2-pitch kb-gate>mult-1-in mult-1-o1>env-1-gate mult-1-o2>env-2-gate bank-1-a>vca-1-in bank-2-a>vca-2-in env-1-out>vca-1-cv env-2-out>vca-2-cv vca-1-out>mixer-1-in1 vca-2-out>mixer-1-in2 mixer-1-out>line-in';
const layered = patchOn(cabinet, { level: 0.7, 'mixer-1-g1': 0.7, 'mixer-1-g2': 0.7 }, LAYERS);

describe('shapes', () => {
  it('are the usual way through a filter and an amplifier, with two envelopes', () => {
    expect(kinds(sluice, initWith({ 'filter-amount': 0.8 }))).toContain('classic');
    expect(kinds(sluice, initWith({ 'filter-amount': 0.5 }))).not.toContain('classic');
  });

  it('are layers, each with an envelope and an amplifier of its own', () => {
    const found = shapes(cabinet, layered).find((s) => s.kind === 'layers')!;
    expect(found.title).toBe('2 layers');
    expect(found.text).toContain('mixed in Mixer');
  });

  it('are filters in line, and one hand that moves several things', () => {
    const cords =
      'kb-pitch>bank-1-pitch bank-1-a>ladder-1-in ladder-1-out>ladder-2-in ladder-2-out>line-in kb-wheel>mult-1-in mult-1-o1>bank-1-mod mult-1-o2>ladder-1-cv';
    const deep = { level: 0.7, 'bank-1-depth': 0.5, 'ladder-1-depth': 0.5 };
    const found = shapes(cabinet, patchOn(cabinet, deep, cords));
    const line = found.find((f) => f.kind === 'in-line')!;
    expect([line.title, line.nodes]).toEqual(['Two filters in line', ['ladder-1-f', 'ladder-2-f']]);
    const hand = found.find((f) => f.kind === 'hand')!;
    expect(hand.title).toBe('One hand, two things: wheel');
    expect(hand.text).toMatch(/pitch and Low-pass cutoff at once/);
    const still = patchOn(cabinet, { ...deep, 'ladder-1-depth': 0 }, cords);
    expect(kinds(cabinet, still)).not.toContain('hand');
  });

  it('are parallel paths: one mix into two filters, mixed again', () => {
    const patch = patchOn(
      cabinet,
      {
        level: 0.7,
        'mixer-2-g1': 0.7,
        'mixer-2-g2': 0.7,
        'ladder-1-cutoff': 0.6,
        'ladder-2-cutoff': 0.6,
      },
      'kb-pitch>bank-1-pitch bank-1-a>mult-1-in mult-1-o1>ladder-1-in mult-1-o2>ladder-2-in ladder-1-out>mixer-2-in1 ladder-2-out>mixer-2-in2 mixer-2-out>line-in lfo-1-out>mult-2-in mult-2-o1>ladder-1-cv mult-2-o2>invert-1-in invert-1-out>ladder-2-cv',
    );
    patch.settings['ladder-1-depth'] = { kind: 'set', value: 0.4 };
    patch.settings['ladder-2-depth'] = { kind: 'set', value: 0.4 };
    const found = shapes(cabinet, patch);
    expect(found.find((s) => s.kind === 'parallel')!.text).toContain('Low-pass and Low-pass 2');
    // One LFO moves one filter up while the other goes down.
    expect(found.find((s) => s.kind === 'shared')!.text).toContain('in opposite directions');
  });

  it('are two filters side by side in one module', () => {
    expect(kinds(estuary, patchOn(estuary, { 'filter-routing': 'parallel' }))).toContain(
      'parallel',
    );
    expect(kinds(estuary, patchOn(estuary, {}))).not.toContain('parallel');
  });

  it('are a source through an attenuator, patched', () => {
    const patch = patchOn(curlew, { att: 0.35 }, 'j-lfo>j-att j-att-out>j-cutoff');
    expect(shapes(curlew, patch).find((s) => s.kind === 'attenuated')!.text).toBe(
      'LFO goes through attenuator (times 0.35) to filter cutoff.',
    );
  });

  it('are a vibrato that comes in late', () => {
    const late = initWith({ 'lfo1-pitch': 0.5, 'lfo1-fade': 0.6 });
    expect(kinds(sluice, late)).toContain('vibrato');
    expect(kinds(sluice, initWith({ 'lfo1-pitch': 0.5, 'lfo1-fade': 0 }))).not.toContain('vibrato');
  });
});

describe('a layer alone', () => {
  it('is what comes through it and nothing else', () => {
    const graph = compile(cabinet, layered);
    const notes = phraseToNotes(layered.phrase, layered.tempo);
    const play = (g: typeof graph): Float32Array =>
      render(g, { sampleRate: 24000, seconds: 0.4, notes }).samples;
    const layers = layersOf(pathOf(cabinet, layered)).filter((l) => l.own);
    expect(layers).toHaveLength(2);
    const alone = layers.map((l) => play(onlyLayer(graph, l)));
    const both = play(graph);
    for (const sound of alone) expect(peakOf(sound)).toBeGreaterThan(0.01);
    // A mixer adds: the layers one by one make the whole.
    for (let i = 0; i < both.length; i += 97) {
      expect(alone[0]![i]! + alone[1]![i]!).toBeCloseTo(both[i]!, 5);
    }
  });
});
