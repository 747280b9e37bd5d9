import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { type ChosenAt, MidiInService, type MovedAt } from './midi-in.service';
import { PanelInputs, type Place } from './panel-inputs';

const place = (id: string, channel: number): Place => ({ input: { id, name: id }, channel });
const first = place('one', 1);
const second = place('one', 2);
const moved = new Subject<MovedAt>();
const chosen = new Subject<ChosenAt>();
const open = (): PanelInputs => {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [{ provide: MidiInService, useValue: { moved, chosen } }],
  });
  return TestBed.inject(PanelInputs);
};

describe('where panels are heard', () => {
  beforeEach(() => localStorage.clear());

  it('is unknown until somebody says it, and kept on this device', () => {
    const inputs = open();
    expect(inputs.isHeard('a', first)).toBe('unknown');
    inputs.say('a', first);
    for (const known of [inputs, open()]) {
      expect(known.isHeard('a', first)).toBe('yes');
      expect(known.isHeard('a', second)).toBe('no');
      expect(known.isHeard('b', first)).toBe('no');
      expect(known.isHeard('b', second)).toBe('unknown');
      expect(known.panelAt(first)).toBe('a');
      expect(known.panelAt(second)).toBeUndefined();
    }
  });

  it('is said of what was heard, which is then heard again', () => {
    const inputs = open();
    const heard: MovedAt[] = [];
    const listening = moved.subscribe((m) => heard.push(m));
    const asked = { ...first, cc: 74, sent: 9 };
    inputs.asked.set({ panel: 'a', moved: asked });
    inputs.say('a', asked);
    expect(heard).toEqual([asked]);
    expect(inputs.of('a')).toEqual(first);
    expect(inputs.asked()).toBeNull();
    listening.unsubscribe();
  });

  it('is said of a place of its memory too', () => {
    const inputs = open();
    const heard: ChosenAt[] = [];
    const listening = chosen.subscribe((c) => heard.push(c));
    const asked = { ...second, program: 11 };
    inputs.asked.set({ panel: 'a', chosen: asked });
    inputs.say('a', asked);
    expect(heard).toEqual([asked]);
    expect(inputs.of('a')).toEqual(second);
    listening.unsubscribe();
  });

  it('is one panel at each place: who says so last is right', () => {
    const inputs = open();
    inputs.say('a', first);
    inputs.say('b', first);
    expect(inputs.panelAt(first)).toBe('b');
    expect(inputs.of('a')).toBeUndefined();
  });

  it('is not asked again on this visit where it was denied, until it is to be asked anew', () => {
    const inputs = open();
    inputs.asked.set({ panel: 'a', moved: { ...first, cc: 74, sent: 9 } });
    inputs.deny('a', first);
    expect(inputs.asked()).toBeNull();
    expect(inputs.isHeard('a', first)).toBe('no');
    expect(inputs.isHeard('b', first)).toBe('unknown');
    inputs.forget('a');
    expect(inputs.isHeard('a', first)).toBe('unknown');
  });

  it.each(['no JSON', '[]', '{"a":{"channel":17,"input":{"id":"x","name":"x"}}}'])(
    'is nowhere where what was kept cannot be read: %s',
    (kept) => {
      localStorage.setItem('hurrel.heard-at', kept);
      expect(open().of('a')).toBeUndefined();
    },
  );
});
