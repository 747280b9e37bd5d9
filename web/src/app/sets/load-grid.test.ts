import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { eveningSchema, type EveningPlan } from '@hurrel/core';
import { LoadGrid } from './load-grid';

const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'high', name: 'high keys' },
  ],
  panels: [{ id: 'e', name: 'Estuary', instrument: 'marram-estuary', by: 'high' }],
  songs: ['one', 'two'].map((id) => ({ id, name: id, pause: 60, plays: [] })),
});
const portion = { panel: 'e', person: 'high', song: 'two', steps: [], seconds: 12, early: true };
const plan: EveningPlan = {
  breaks: [
    { song: 'one', length: 60, portions: [], during: [], loads: { low: 30 }, over: 0 },
    { song: 'two', length: 60, portions: [], during: [portion], loads: { low: 90 }, over: 30 },
  ],
  seconds: 120,
  movements: 3,
  worst: 1,
  gone: [],
  kept: [],
  noPlaces: [],
  compromises: [],
  handed: [],
  handedSure: true,
  keptSure: true,
};

let fixture: ComponentFixture<LoadGrid>;
const buttons = (): HTMLButtonElement[] => [
  ...(fixture.nativeElement as HTMLElement).querySelectorAll('button'),
];

beforeEach(async () => {
  fixture = TestBed.createComponent(LoadGrid);
  fixture.componentRef.setInput('evening', evening);
  fixture.componentRef.setInput('plan', plan);
  await fixture.whenStable();
});

describe('the evening as it falls on each person', () => {
  it('tells what each has to do in each break, and where it does not suffice', () => {
    expect(buttons().map((b) => [b.getAttribute('aria-label'), b.className])).toEqual([
      ['low keys, before one: 0:30 of 1:00', ''],
      ['low keys, before two: 1:30 of 1:00', 'over'],
      ['high keys, before two: 0:00 of 1:00, 0:12 in the song before', ''],
    ]);
    const bars = buttons().map((b) => b.querySelector<HTMLElement>('.bar')!.style.height);
    expect(bars).toEqual(['50%', '100%', '0%']);
  });

  it('leads to the break', () => {
    const picked: number[] = [];
    fixture.componentInstance.picked.subscribe((at) => picked.push(at));
    buttons()[1]!.click();
    expect(picked).toEqual([1]);
  });
});
