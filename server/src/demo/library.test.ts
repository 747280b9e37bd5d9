import {
  checkPatch,
  compile,
  checkup,
  panelOf,
  instrumentSchema,
  notesEnd,
  openFindings,
  panelAtStart,
  patchSchema,
  peakOf,
  phraseToNotes,
  planRebuild,
  render,
} from '@hurrel/core';
import { withDemoSound } from '../testing/fed';
import { demoInstruments, demoPatches } from './library';

const instruments = new Map(
  demoInstruments.map((d) => [instrumentSchema.parse(d).id, instrumentSchema.parse(d)]),
);
const patches = demoPatches.map((d) => withDemoSound(patchSchema.parse(d)));

describe.each(patches.map((p) => [p.name, p] as const))('%s', (_, patch) => {
  const instrument = panelOf(instruments.get(patch.instrument)!, patch);
  const notes = phraseToNotes(patch.phrase, patch.tempo);

  it('fits its instrument, and whatever the doctor finds is meant so', () => {
    expect(checkPatch(patch, instrument)).toEqual([]);
    expect(openFindings(checkup(instrument, patch))).toEqual([]);
  });

  it('is heard, and does not clip', () => {
    const { samples } = render(compile(instrument, patch), {
      sampleRate: 24000,
      seconds: notesEnd(notes),
      notes,
    });
    const peak = peakOf(samples);
    expect(peak).toBeGreaterThan(0.1);
    expect(peak).toBeLessThan(1);
  });

  it('is rebuilt from the start in two minutes and what cables, matrix and cabinet take, with its places to listen', () => {
    const plan = planRebuild(instrument, panelAtStart(instrument), patch);
    // What goes into its sequencers takes the time that it takes, and so does a module that is screwed in.
    const other = plan.steps.reduce(
      (n, s) =>
        n + (s.kind === 'entry' || s.kind === 'rack' || s.kind === 'outboard' ? s.seconds : 0),
      0,
    );
    expect(plan.seconds - other).toBeLessThan(
      120 + 6 * patch.cables.length + 8 * patch.matrix.length,
    );
    expect(plan.steps.filter((s) => s.kind === 'listening')).toHaveLength(patch.checkpoints.length);
  });
});
