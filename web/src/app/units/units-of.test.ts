import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { unitsOf } from './units-of';
import { UnitsService } from './units.service';

interface Open {
  id: string;
  name: string;
}

const open = signal<Open | null>(null);
/** What was asked of the server, and how it is answered. */
const asked: { id: string; answer: (names: string[]) => void; fail: () => void }[] = [];
let names: () => string[];

beforeEach(() => {
  open.set(null);
  asked.length = 0;
  const of = (id: string) =>
    new Promise((done, failed) =>
      asked.push({
        id,
        answer: (all) => done(all.map((name) => ({ id: name }))),
        fail: () => failed(new Error('away')),
      }),
    );
  TestBed.configureTestingModule({ providers: [{ provide: UnitsService, useValue: { of } }] });
  const units = TestBed.runInInjectionContext(() => unitsOf(open));
  names = () => units().map((unit) => unit.id);
});

const goTo = async (next: Open | null): Promise<void> => {
  open.set(next);
  TestBed.tick();
  await Promise.resolve();
};
const settled = (): Promise<void> => new Promise((done) => setTimeout(done));

describe('the units of an instrument', () => {
  it('are asked for once, however often what is open is edited', async () => {
    await goTo({ id: 'crane', name: 'Crane' });
    asked[0]!.answer(['upstairs', 'van']);
    await settled();
    for (const name of ['Crane a', 'Crane ab']) await goTo({ id: 'crane', name });
    expect(asked.map((a) => a.id)).toEqual(['crane']);
    expect(names()).toEqual(['upstairs', 'van']);
  });

  it('are those of the one that is open, whichever answer comes last', async () => {
    await goTo({ id: 'crane', name: 'Crane' });
    await goTo({ id: 'teal', name: 'Teal' });
    asked[1]!.answer(['loft']);
    asked[0]!.answer(['upstairs']);
    await settled();
    expect(names()).toEqual(['loft']);
  });

  it('are none where nothing is open or the server is away', async () => {
    await goTo(null);
    expect(asked).toEqual([]);
    await goTo({ id: 'crane', name: 'Crane' });
    asked[0]!.fail();
    await settled();
    expect(names()).toEqual([]);
  });
});
