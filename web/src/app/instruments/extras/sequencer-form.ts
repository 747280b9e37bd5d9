import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  type Abilities,
  arpeggioModes,
  capabilitiesOf,
  conditionKinds,
  controlLabel,
  directions,
  inWorkingOrder,
  midiToNote,
  noteToMidi,
  rateNames,
  type Sequencer,
  sequencerKinds,
  withAbility,
  withoutSequencer,
  withSaid,
} from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { InstrumentDesk } from '../instrument-desk';

type Flag = 'tie' | 'slide' | 'accent' | 'velocity' | 'length' | 'micro' | 'swing' | 'ownLengths';
type Many = 'rates' | 'directions' | 'conditions' | 'modes';

const FLAGS: { key: Flag; says: string }[] = [
  { key: 'tie', says: 'ties' },
  { key: 'slide', says: 'slides' },
  { key: 'accent', says: 'accents' },
  { key: 'velocity', says: 'a velocity each step' },
  { key: 'length', says: 'a length each step' },
  { key: 'micro', says: 'early and late steps' },
  { key: 'swing', says: 'swing' },
  { key: 'ownLengths', says: 'tracks of their own length, rate and direction' },
];
const MANY: { key: Many; says: string; all: readonly string[]; kinds: Sequencer['kind'][] }[] = [
  {
    ...{ key: 'rates', says: 'A step can be', all: rateNames },
    kinds: ['two-pass', 'rows', 'multi-track', 'arpeggio'],
  },
  { key: 'directions', says: 'It runs', all: directions, kinds: ['rows', 'multi-track'] },
  {
    ...{ key: 'conditions', says: 'Steps sound on', all: conditionKinds, kinds: ['multi-track'] },
  },
  { key: 'modes', says: 'Keys are run through', all: arpeggioModes, kinds: ['arpeggio'] },
];
const TOLD: { key: keyof Sequencer['panel']; says: string; kinds: Sequencer['kind'][] }[] = [
  { key: 'last', says: 'Last step', kinds: ['rows', 'two-pass', 'multi-track'] },
  { key: 'direction', says: 'Direction', kinds: ['rows', 'multi-track'] },
  { key: 'rate', says: 'Rate', kinds: ['rows', 'two-pass', 'multi-track', 'arpeggio'] },
  { key: 'swing', says: 'Swing', kinds: ['rows', 'multi-track', 'arpeggio'] },
  { key: 'mode', says: 'Mode', kinds: ['arpeggio'] },
  { key: 'octaves', says: 'Octaves', kinds: ['arpeggio'] },
];

const PASS_ORDERS: { id: NonNullable<Sequencer['passes']>; says: string }[] = [
  { id: 'pitches-first', says: 'the pitches' },
  { id: 'time-first', says: 'the time' },
  { id: 'either', says: 'either' },
];

/** One sequencer: how long its patterns are, what a step can hold, and what the panel tells it. */
@Component({
  selector: 'hur-sequencer-form',
  imports: [NumberField],
  templateUrl: './sequencer-form.html',
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SequencerForm {
  readonly sequencer = input.required<Sequencer>();
  private readonly desk = inject(InstrumentDesk);

  protected readonly kind = computed(() =>
    sequencerKinds.find((k) => k.kind === this.sequencer().kind)!,
  );
  protected readonly can = computed(() => capabilitiesOf(this.sequencer()));
  protected readonly flags = computed(() => {
    const { kind } = this.sequencer();
    const few: Flag[] = kind === 'arpeggio' ? ['swing'] : ['swing', 'tie', 'length'];
    return kind === 'rows' || kind === 'arpeggio'
      ? FLAGS.filter((f) => few.includes(f.key))
      : FLAGS;
  });
  protected readonly many = computed(() =>
    MANY.filter((m) => m.kinds.includes(this.sequencer().kind)),
  );
  protected readonly told = computed(() =>
    TOLD.filter((t) => t.kinds.includes(this.sequencer().kind)),
  );
  protected readonly controls = computed(() => {
    const instrument = this.desk.instrument();
    if (!instrument) return [];
    return inWorkingOrder(instrument).map((c) => ({
      id: c.id,
      name: controlLabel(instrument, c.id),
    }));
  });
  protected readonly noteName = midiToNote;
  protected readonly passOrders = PASS_ORDERS;

  protected say(said: Partial<Omit<Sequencer, 'id' | 'kind'>>): void {
    this.desk.edit((i) => withSaid(i, this.sequencer().id, said));
  }

  protected able<K extends keyof Abilities>(key: K, value: Abilities[K]): void {
    this.desk.edit((i) => withAbility(i, this.sequencer().id, key, value));
  }

  protected has(key: Many, one: string): boolean {
    return (this.can()[key] as readonly string[]).includes(one);
  }

  /** The last of them stays where there must be one. */
  protected toggle(key: Many, one: string, all: readonly string[]): void {
    const now = this.can()[key] as readonly string[];
    const next = all.filter((word) => (word === one ? !now.includes(one) : now.includes(word)));
    if (next.length > 0 || key === 'conditions') this.able(key, next as never);
  }

  protected setNote(end: 'from' | 'to', text: string): void {
    const note = noteToMidi(text);
    const notes = this.can().notes;
    if (note === undefined || !notes) return;
    const next = { ...notes, [end]: note };
    if (next.from <= next.to) this.able('notes', next);
  }

  protected tell(key: keyof Sequencer['panel'], control: string): void {
    const { [key]: _, ...panel } = this.sequencer().panel;
    this.say({ panel: control === '' ? panel : { ...panel, [key]: control } });
  }

  /** Pitches first is what a box wants of which nothing is said. */
  protected setPasses(index: number): void {
    const order = PASS_ORDERS[index];
    if (order) this.say({ passes: order.id === 'pitches-first' ? undefined : order.id });
  }

  protected setSlots(banks: number, slots: number): void {
    this.say({ places: banks > 0 && slots > 0 ? { banks, slots } : undefined });
  }

  protected setTracks(count: number): void {
    const { tracks } = this.sequencer();
    const more = Array.from({ length: count }, (_, i) => i + 1)
      .filter((n) => n > tracks.length)
      .map((n) => ({ id: `track-${n}`, name: `track ${n}`, from: 0, to: 127 }))
      .filter((t) => !tracks.some((one) => one.id === t.id));
    this.say({ tracks: [...tracks.slice(0, count), ...more] });
  }

  protected sayTrack(id: string, said: Partial<Sequencer['tracks'][number]>): void {
    const tracks = this.sequencer().tracks.map((t) => (t.id === id ? { ...t, ...said } : t));
    if (tracks.every((t) => t.from <= t.to && t.name !== '')) this.say({ tracks });
  }

  protected trackNote(id: string, end: 'from' | 'to', text: string): void {
    const note = noteToMidi(text);
    if (note !== undefined) this.sayTrack(id, { [end]: note });
  }

  protected sayRow(id: string, said: Partial<Sequencer['rows'][number]>): void {
    const rows = this.sequencer().rows.map((r) => (r.id === id ? { ...r, ...said } : r));
    this.say({ rows });
  }

  protected through(id: string, control: string): void {
    const rows = this.sequencer().rows.map((r) => {
      if (r.id !== id) return r;
      const { through: _, ...rest } = r;
      return control === '' ? rest : { ...rest, through: control };
    });
    this.say({ rows });
  }

  protected remove(): void {
    this.desk.edit((i) => withoutSequencer(i, this.sequencer().id));
  }
}
