import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import { instrumentSchema, type Setting } from '@hurrel/core';
import estuaryFile from '../../../../library/instruments/marram-estuary.json';
import { PanelsHeard, type Sent } from '../midi/panels-heard';
import { StageAstray } from './stage-astray';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

const face = instrumentSchema.parse(estuaryFile);
const [first, second] = ['resonance', 'env1-attack'].map((id) =>
  face.controls.find((c) => c.id === id),
);
const low: Setting = { kind: 'set', value: 0 };

/** Two controls shall stand at 0; the first was turned to 10 at a time. */
async function stand(done: Record<string, number> = {}, open: string[] = []) {
  const sent = signal<Sent>(new Map([[first!.cc!, { sent: 127, at: 100 }]]));
  TestBed.configureTestingModule({
    providers: [
      TurnedByHand,
      {
        provide: PanelsHeard,
        useValue: { of: (id: string) => (id === 'unit-e' ? sent() : new Map()) },
      },
      {
        provide: StageDesk,
        useValue: {
          song: () => ({ id: 'two' }),
          turn: () => open.map((id) => ({ panel: 'e', step: { id } })),
          plays: () => [{ panel: 'e' }, { panel: 'gone' }],
          goal: (_: string, panel: string) =>
            panel === 'e'
              ? { face, patch: { settings: { [first!.id]: low, [second!.id]: low } } }
              : null,
          keptAs: (id: string) => `unit-${id}`,
          panelName: () => 'Estuary',
          doneAt: (_: string, step: string) => done[step] ?? -Infinity,
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(StageAstray);
  await fixture.whenStable();
  const says = (): string =>
    (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ').trim();
  return { fixture, sent, says };
}

describe('what was turned while a song was played', () => {
  it('is told with where it stands and where it shall, until it is heard to be back', async () => {
    const { fixture, sent, says } = await stand();
    expect(says()).toMatch(/^Estuary .+ was turned to 10: back to 0$/);
    sent.set(new Map([[first!.cc!, { sent: 0, at: 200 }]]));
    await fixture.whenStable();
    expect(says()).toBe('');
  });

  it('is not told where it is moved in this break anyhow', async () => {
    expect((await stand({}, [first!.id])).says()).toBe('');
  });

  it.each([
    ['was set by a movement since', { [first!.id]: 150 }],
    ['was loaded over since', { load: 150 }],
  ])('is not told where it %s', async (_, done) => {
    expect((await stand(done)).says()).toBe('');
  });

  it('is told where it was turned after it was set', async () => {
    const done = { [first!.id]: 50, load: 50, [second!.id]: 150 };
    expect((await stand(done)).says()).toContain('back to 0');
  });
});
