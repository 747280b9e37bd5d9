import { TestBed } from '@angular/core/testing';
import type { OpenWork } from '@hurrel/core';
import { StageDesk } from './stage-desk';
import { StageWhere } from './stage-where';

const workOf = (count: number): OpenWork[] =>
  Array.from(
    { length: count },
    (_, i) => ({ key: `k${i}`, panel: 's', song: 'one', step: { id: `m${i}` } }) as OpenWork,
  );

async function ask(count: number, heard: [string, boolean][] = []) {
  const stage = { panelName: () => 'Sluice', says: (w: OpenWork) => `Turn ${w.step.id}` };
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [{ provide: StageDesk, useValue: stage }] });
  const fixture = TestBed.createComponent(StageWhere);
  fixture.componentRef.setInput('work', workOf(count));
  fixture.componentRef.setInput('heard', new Map(heard));
  const closed: (string[] | null)[] = [];
  fixture.componentInstance.closed.subscribe((stand) => closed.push(stand && [...stand].sort()));
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (name: string): Promise<void> => {
    [...page.querySelectorAll('button')].find((b) => b.textContent?.trim() === name)!.click();
    await fixture.whenStable();
  };
  return { page, press, closed };
}

describe('how far a panel is', () => {
  it('is found in as many looks as it says, however many were done', async () => {
    for (let done = 0; done <= 11; done++) {
      const { page, press, closed } = await ask(11);
      expect(page.textContent).toContain('Look 1 of at most 4, on Sluice');
      let looks = 0;
      while (closed.length === 0) {
        const asked = Number(/m(\d+)/.exec(page.querySelector('h2')!.textContent)![1]);
        await press(asked < done ? 'Yes' : 'No');
        looks++;
      }
      const stand = workOf(11)
        .slice(0, done)
        .map((w) => w.key);
      expect(closed).toEqual([stand.sort()]);
      expect(looks).toBeLessThanOrEqual(4);
    }
  });

  it('is left as it was by whoever never minds', async () => {
    const { press, closed } = await ask(3);
    await press('Never mind');
    expect(closed).toEqual([null]);
  });

  it('is not asked of what was heard', async () => {
    const { page, press, closed } = await ask(5, [
      ['k1', false],
      ['k2', true],
    ]);
    expect(page.textContent).toContain('Look 1 of at most 2, on Sluice');
    expect(page.textContent).toContain('2 of 5 movements were heard');
    // k0, k3 and k4 are left.
    expect(page.querySelector('h2')!.textContent).toBe('Turn m3');
    await press('Yes');
    await press('No');
    expect(closed).toEqual([['k0', 'k2', 'k3']]);
  });

  it('is told without a look where all was heard', async () => {
    const { page, press, closed } = await ask(2, [
      ['k0', false],
      ['k1', true],
    ]);
    expect(page.textContent).toContain('Sluice was heard: 1 of 2 stand as they shall');
    expect(closed).toEqual([]);
    await press('Go on from there');
    expect(closed).toEqual([['k1']]);
  });
});
