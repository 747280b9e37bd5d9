import { TestBed } from '@angular/core/testing';
import type { OpenWork } from '@hurrel/core';
import { StageDesk } from './stage-desk';
import { StageWhere } from './stage-where';

const workOf = (count: number): OpenWork[] =>
  Array.from(
    { length: count },
    (_, i) => ({ key: `k${i}`, panel: 's', song: 'one', step: { id: `m${i}` } }) as OpenWork,
  );

async function ask(count: number) {
  const stage = { panelName: () => 'Sluice', says: (w: OpenWork) => `Turn ${w.step.id}` };
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [{ provide: StageDesk, useValue: stage }] });
  const fixture = TestBed.createComponent(StageWhere);
  fixture.componentRef.setInput('work', workOf(count));
  const closed: (number | null)[] = [];
  fixture.componentInstance.closed.subscribe((done) => closed.push(done));
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
        await press(asked < done ? 'It does' : 'It does not');
        looks++;
      }
      expect(closed).toEqual([done]);
      expect(looks).toBeLessThanOrEqual(4);
    }
  });

  it('is left as it was by whoever never minds', async () => {
    const { press, closed } = await ask(3);
    await press('Never mind');
    expect(closed).toEqual([null]);
  });
});
