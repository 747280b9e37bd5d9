import { TestBed } from '@angular/core/testing';
import { blankPatch, instrumentSchema, type Shown, type WalkMark, workKey } from '@hurrel/core';
import estuaryFile from '../../../../library/instruments/marram-estuary.json';
import { answerOf } from '../../testing/answers';
import { API } from '../api/client';
import { WalkLine } from '../walk/walk-line';
import { LoadedByHand } from './loaded-by-hand';
import { PanelShows } from './panel-shows';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

const face = instrumentSchema.parse(estuaryFile);
const at = (value: number) => ({ kind: 'set' as const, value });
const patch = {
  ...blankPatch(face, 'haze'),
  settings: { resonance: at(0.2), 'env1-attack': at(0.6) },
};
const AT = '2026-12-12T21:00:00.000Z';
const ccOf = (id: string): number => face.controls.find((c) => c.id === id)!.cc!;

/** A panel on which so much is ticked for a song, and so much was turned by hand. @returns what the server is told */
async function tell(
  done: string[],
  turned: Record<string, number> = {},
  wrong?: WalkMark,
): Promise<{ panel: string; shown: Shown }[]> {
  const told: { panel: string; shown: Shown }[] = [];
  const $put = async (asked: { param: { panel: string }; json: { shown: Shown } }) => {
    told.push({ panel: asked.param.panel, shown: asked.json.shown });
    return answerOf({});
  };
  // Ticked one after the other.
  const mark = (clock: number) => ({ value: 'done', clock, device: 'd', at: AT });
  const marks = Object.fromEntries(done.map((id, i) => [workKey('one', 'e', id), mark(i + 1)]));
  const sent = new Map(Object.entries(turned).map(([id, value]) => [ccOf(id), value]));
  TestBed.configureTestingModule({
    providers: [
      PanelShows,
      { provide: API, useValue: { shown: { ':panel': { $put } } } },
      { provide: WalkLine, useValue: { marks: () => marks, walk: () => null } },
      { provide: TurnedByHand, useValue: { since: () => sent } },
      { provide: LoadedByHand, useValue: { wrong: () => wrong } },
      {
        provide: StageDesk,
        useValue: {
          goal: (_: string, panel: string) =>
            panel === 'gone' ? null : { play: { patch: 'p', panel }, patch, face },
          stood: () => undefined,
          // Nobody has said which of two it is.
          keptAs: (id: string) => (id === 'alike' ? '' : `unit-${id}`),
        },
      },
    ],
  });
  const shows = TestBed.inject(PanelShows);
  shows.moved('one', 'gone');
  shows.moved('one', 'alike');
  shows.moved('one', 'e');
  // Told when the page is left, if not before.
  shows.ngOnDestroy();
  await new Promise((r) => setTimeout(r));
  return told;
}

describe('what panels show on stage', () => {
  it('is what is ticked, and of the rest what stood there before', async () => {
    const [said, ...more] = await tell(['resonance']);
    expect(more).toEqual([]);
    expect(said!.panel).toBe('unit-e');
    expect(said!.shown).toMatchObject({ patch: 'p', name: 'haze', finished: false });
    expect(said!.shown.panel.settings['resonance']).toEqual(at(0.2));
    expect(said!.shown.panel.settings['env1-attack']).not.toEqual(at(0.6));
  });

  it('is where hands were heard to have turned it, whatever the patch says', async () => {
    const [said] = await tell(['resonance', 'env1-attack'], { resonance: 127 });
    expect(said!.shown.panel.settings['resonance']).toEqual(at(1));
    expect(said!.shown.panel.settings['env1-attack']).toEqual(at(0.6));
  });

  it('is what the patch says where it was heard as near to it as 128 values tell', async () => {
    const [said] = await tell(['resonance', 'env1-attack'], { resonance: 26 });
    expect(said!.shown.panel.settings['resonance']).toEqual(at(0.2));
  });

  it('is certain only of what was ticked after something else was loaded over it', async () => {
    const wrong: WalkMark = { value: 'A12', clock: 1, device: 'd', at: AT };
    const [said] = await tell(['resonance', 'env1-attack'], {}, wrong);
    expect(said!.shown.finished).toBe(false);
    expect(said!.shown.panel.settings['env1-attack']).toEqual(at(0.6));
    expect(said!.shown.uncertain).toContain('resonance');
    expect(said!.shown.uncertain).toHaveLength(face.controls.length - 1);
  });
});
