import { jest } from '@jest/globals';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { blankPatch, type Control, instrumentSchema, type Movement } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { Subject } from 'rxjs';
import { MidiInService, type MovedAt } from '../midi/midi-in.service';
import { PanelInputs } from '../midi/panel-inputs';
import { MovementView } from './movement-view';

const silent = instrumentSchema.parse(curlewFile);
const curlew = {
  ...silent,
  controls: silent.controls.map((c): Control => (c.id === 'cutoff' ? { ...c, cc: 74 } : c)),
};
const movement: Movement = {
  kind: 'movement',
  id: 'cutoff',
  control: 'cutoff',
  section: 'filter',
  from: '1',
  to: '5',
  toValue: 0.5,
  seconds: 3,
};

async function before(changes: Partial<Movement> = {}, sent = new Map<number, number>()) {
  const moved = new Subject<MovedAt>();
  localStorage.clear();
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      {
        provide: MidiInService,
        useValue: {
          moved,
          chosen: new Subject(),
          supported: true,
          inputs: signal(['Curlew']),
          fault: signal(''),
          connectIfAllowed: async () => undefined,
        },
      },
    ],
  });
  const place = { input: { id: 'one', name: 'Curlew' }, channel: 1 };
  TestBed.inject(PanelInputs).say('unit-c', place);
  const fixture = TestBed.createComponent(MovementView);
  fixture.componentRef.setInput('panel', 'unit-c');
  fixture.componentRef.setInput('sent', sent);
  fixture.componentRef.setInput('instrument', curlew);
  fixture.componentRef.setInput('patch', blankPatch(curlew, 'tried'));
  fixture.componentRef.setInput('movement', { ...movement, ...changes });
  let arrived = 0;
  fixture.componentInstance.arrived.subscribe(() => arrived++);
  fixture.detectChanges();
  const turn = (sent: number, cc = 74): void => {
    moved.next({ ...place, cc, sent });
    fixture.detectChanges();
  };
  const says = (): string =>
    (fixture.nativeElement as HTMLElement).querySelector('.stands')?.textContent ?? '';
  const next = (more: Partial<Movement>): void => {
    fixture.componentRef.setInput('movement', { ...movement, ...more });
    fixture.detectChanges();
  };
  const told = (value: number): void => {
    fixture.componentRef.setInput('sent', new Map([[74, value]]));
    fixture.detectChanges();
  };
  return { turn, next, says, told, arrived: () => arrived };
}

describe('a movement whose control is heard', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it('says where it stands, and is done when it stays where it shall', async () => {
    const { turn, says, arrived } = await before();
    turn(20);
    expect(says()).toMatch(/stands at\s+1.56/);
    // On the way past it.
    turn(64);
    expect(says()).toContain('there');
    jest.advanceTimersByTime(300);
    turn(90);
    jest.advanceTimersByTime(2000);
    expect(arrived()).toBe(0);
    turn(64);
    jest.advanceTimersByTime(600);
    expect(arrived()).toBe(1);
  });

  it('hears no other control, and leaves to the ear what is the ear’s', async () => {
    const other = await before();
    other.turn(64, 20);
    jest.advanceTimersByTime(2000);
    expect([other.says(), other.arrived()]).toEqual(['', 0]);
    const byEar = await before({ target: 'until it sings' });
    byEar.turn(64);
    jest.advanceTimersByTime(2000);
    expect(byEar.says()).toMatch(/stands at\s+5/);
    expect(byEar.arrived()).toBe(0);
  });

  it('is done at once where the control was turned there before its turn came', async () => {
    const { says, arrived } = await before({}, new Map([[74, 64]]));
    expect(says()).toContain('there');
    jest.advanceTimersByTime(600);
    expect(arrived()).toBe(1);
  });

  it('waits for a hand when it is taken back', async () => {
    const { turn, next, says, arrived } = await before({}, new Map([[74, 64]]));
    jest.advanceTimersByTime(600);
    next({ id: 'resonance', control: 'resonance' });
    next({});
    expect(says()).toContain('there');
    jest.advanceTimersByTime(2000);
    expect(arrived()).toBe(1);
    turn(64);
    jest.advanceTimersByTime(600);
    expect(arrived()).toBe(2);
  });

  it('is done where another screen hears it arrive, once it was taken back too', async () => {
    const { next, says, told, arrived } = await before();
    told(20);
    expect(says()).toMatch(/stands at\s+1.56/);
    jest.advanceTimersByTime(2000);
    expect(arrived()).toBe(0);
    told(64);
    jest.advanceTimersByTime(600);
    expect(arrived()).toBe(1);
    next({ id: 'resonance', control: 'resonance' });
    next({});
    jest.advanceTimersByTime(2000);
    expect(arrived()).toBe(1);
    told(20);
    told(64);
    jest.advanceTimersByTime(600);
    expect(arrived()).toBe(2);
  });
});
