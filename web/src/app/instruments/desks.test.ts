import { TestBed } from '@angular/core/testing';
import { isSwitched, proposeBindings, type Skeleton, skeletonSchema } from '@hurrel/core';
import skeletonFile from '../../../../library/skeletons/one-oscillator.json';
import { describedAs, openInstrument } from '../../testing/open-instrument';
import type { Heard } from '../sound/heard';
import { TransportService } from '../transport/transport.service';
import { ToastService } from '../ui/toasts';
import { ArrangeDesk } from './arrange/arrange-desk';
import { InstrumentDesk } from './instrument-desk';
import { RoomDesk } from './room/room-desk';
import { TrialDesk } from './trial-desk';

const crane = describedAs(
  'Crane by Own\n\nFilter:\ncutoff 0..10\nkey track off/half/full\n\nLoudness envelope:\nsustain 0..10\n\nOut:\nvolume 0..10\n> line',
);
const skeleton: Skeleton = skeletonSchema.parse(skeletonFile);
const heard: Heard[] = [];
const transport = {
  tryOut: (one: Heard) => void heard.push(one),
  endTrial: () => undefined,
};
const open = () =>
  openInstrument(crane, [
    InstrumentDesk,
    ArrangeDesk,
    RoomDesk,
    TrialDesk,
    { provide: TransportService, useValue: transport },
  ]);
const told = (): string[] =>
  TestBed.inject(ToastService)
    .toasts()
    .map((t) => t.text);

describe('the circuit room', () => {
  it('adds, wires whichever way round, takes away with what names it, and undoes', () => {
    const { present, undo } = open();
    const room = TestBed.inject(RoomDesk);
    room.add('oscillator');
    expect(room.module()?.id).toBe('oscillator');
    // From the input to the output is as good.
    room.join('output.in', 'oscillator.out');
    expect(present().circuit.wires).toEqual([{ from: 'oscillator.out', to: 'output.in' }]);
    room.join('oscillator.out', 'output.in');
    expect(told().at(-1)).toContain('already');
    room.removeChosen();
    expect(present().circuit.wires).toEqual([]);
    expect(room.module()).toBeUndefined();
    expect(told().at(-1)).toBe('oscillator is gone, and let go of 1 wire. Undo takes it back.');
    undo();
    expect(present().circuit.wires).toHaveLength(1);
    room.choose('output');
    room.removeChosen();
    expect(present().circuit.modules).toEqual([]);
    expect(told().at(-1)).toContain('no circuit');
  });

  it('changes nothing when something cannot be done', () => {
    const { present } = open();
    const room = TestBed.inject(RoomDesk);
    room.add('output');
    const before = present();
    room.add('output');
    expect(present()).toBe(before);
    expect(told().at(-1)).toContain('an output already');
  });
});

describe('the sheet', () => {
  it('takes the copies it made, and says why a line cannot be put', () => {
    const { present } = open();
    const sheet = TestBed.inject(ArrangeDesk);
    sheet.take('section:filter', false);
    sheet.copy();
    expect(sheet.things()).toEqual(['section:filter-2']);
    expect(present().controls.map((c) => c.name)).toEqual([
      ...['cutoff', 'key track', 'sustain', 'volume', 'cutoff', 'key track'],
    ]);
    const before = present();
    expect(sheet.put('Filter:', { x: 5, y: 5 })).toContain('already');
    expect(present()).toBe(before);
    expect(sheet.put('drive 0..5', { x: 40, y: 60 })).toBe('');
    expect(sheet.things()).toHaveLength(1);
    expect(present().controls.some((c) => c.name === 'drive')).toBe(true);
  });
});

describe('a panel that is tried by ear', () => {
  it('begins as its circuit stands, keeps what is turned, and lets go of what cannot stand any more', () => {
    const { present } = open();
    const [desk, trial] = [TestBed.inject(InstrumentDesk), TestBed.inject(TrialDesk)];
    expect(trial.can()).toBe(false);
    desk.takeSkeleton(skeleton, proposeBindings(crane, skeleton));
    expect(trial.can()).toBe(true);
    const value = (id: string) => {
      const setting = trial.patch()!.settings[id];
      return setting?.kind === 'set' ? setting.value : undefined;
    };
    expect(value('filter-cutoff')).toBe(1);
    const find = (id: string) => present().controls.find((c) => c.id === id)!;
    const turn = (id: string, to: number | string): void =>
      trial.moved({ control: find(id), value: to, gesture: 'g' });
    turn('filter-cutoff', 0.25);
    // As long as it is not tried, a hand on the panel turns nothing.
    expect(value('filter-cutoff')).toBe(1);
    trial.toggle();
    TestBed.tick();
    turn('filter-cutoff', 0.25);
    const track = find('filter-key-track');
    turn(track.id, isSwitched(track) ? track.positions[2]!.id : 0);
    TestBed.tick();
    expect(heard.at(-1)!.patch.settings['filter-cutoff']).toEqual({ kind: 'set', value: 0.25 });
    expect(heard.at(-1)!.link).toEqual(['/instrument', crane.id]);
    desk.type(present().outline!.replace('off/half/full', 'off/half'));
    expect(value('filter-cutoff')).toBe(0.25);
    expect(value('filter-key-track')).toBe(find('filter-key-track').rest);
    trial.reset();
    expect(value('filter-cutoff')).toBe(1);
  });
});
