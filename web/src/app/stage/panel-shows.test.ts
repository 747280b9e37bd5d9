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

interface Told {
  panel: string;
  shown: Shown;
}

/** A panel on which so much is ticked for a song, and so much was turned by hand. @param told takes what the server is told */
function stand(
  told: (one: Told) => Promise<void>,
  done: string[],
  turned: Record<string, number> = {},
  wrong?: WalkMark,
): { shows: PanelShows; turn: (id: string, value: number) => void } {
  const $put = async (asked: { param: { panel: string }; json: { shown: Shown } }) => {
    await told({ panel: asked.param.panel, shown: asked.json.shown });
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
  return {
    shows: TestBed.inject(PanelShows),
    turn: (id, value) => void sent.set(ccOf(id), value),
  };
}

/** @returns what the server is told of it */
async function tell(...of: [string[], Record<string, number>?, WalkMark?]): Promise<Told[]> {
  const told: Told[] = [];
  const { shows } = stand(async (one) => void told.push(one), ...of);
  shows.moved('one', 'gone');
  shows.moved('one', 'alike');
  shows.moved('one', 'e');
  // Told when the page is left, if not before.
  shows.ngOnDestroy();
  await new Promise((r) => setTimeout(r));
  return told;
}

/** The same with a server that answers when it is let. */
function waiting() {
  const told: Shown[] = [];
  const answers: (() => void)[] = [];
  const stood = stand(
    async ({ shown }) => {
      told.push(shown);
      await new Promise<void>((on) => answers.push(on));
    },
    ['resonance', 'env1-attack'],
  );
  const until = async (count: number): Promise<void> => {
    while (told.length < count) await new Promise((on) => setTimeout(on));
  };
  return { ...stood, told, answers, until };
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

  it('is with what was heard while an answer was waited for: nothing of it is overwritten', async () => {
    const { shows, turn, told, answers, until } = waiting();
    shows.moved('one', 'e');
    await until(1);
    shows.moved('one', 'e');
    turn('resonance', 127);
    answers[0]!();
    await until(2);
    expect(told.map((shown) => shown.panel.settings['resonance'])).toEqual([at(0.2), at(1)]);
    answers[1]!();
  });

  it('is told once more where a hand turned something while it was on its way', async () => {
    const { shows, turn, told, answers, until } = waiting();
    shows.moved('one', 'e');
    await until(1);
    turn('resonance', 127);
    answers[0]!();
    await until(2);
    expect(told.map((shown) => shown.panel.settings['resonance'])).toEqual([at(0.2), at(1)]);
    answers[1]!();
  });
});
