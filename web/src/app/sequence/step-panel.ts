import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  allocate,
  type Condition,
  conditionKind,
  conditionWords,
  formatValue,
  isSwitched,
  midiToNote,
  noteRules,
  type NoteRule,
  parseReading,
  parseSteps,
  PLAIN,
  type PatternStep,
  compile,
} from '@hurrel/core';
import { SequenceService } from './sequence.service';

const CONDITIONS: Condition[] = [
  'fill',
  'not-fill',
  'first',
  'not-first',
  'previous',
  'not-previous',
  '25%',
  '50%',
  '75%',
  '1/2',
  '2/2',
  '1/4',
  '2/4',
  '3/4',
  '4/4',
];

/** All of the step that one stands on: notes, marks, numbers, condition, locks, and who gets the notes. */
@Component({
  selector: 'hur-step-panel',
  templateUrl: './step-panel.html',
  styleUrl: './step-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StepPanel {
  protected readonly sequence = inject(SequenceService);
  protected readonly errors = signal<Record<string, string>>({});
  protected readonly plain = PLAIN;
  protected readonly words = conditionWords;
  protected readonly step = this.sequence.step;
  protected readonly can = this.sequence.can;

  protected readonly title = computed(() => {
    const track = this.sequence.track();
    return track ? `${track.name}, step ${this.sequence.cursor().step + 1}` : '';
  });
  protected readonly notes = computed(
    () =>
      this.step()
        .notes?.map((n) => midiToNote(n).toLowerCase())
        .join('+') ?? '',
  );
  protected readonly conditions = computed(() => {
    const known = this.can().conditions;
    const own = this.step().condition;
    const listed = CONDITIONS.filter((c) => known.includes(conditionKind(c)));
    return own && !listed.includes(own) ? [own, ...listed] : listed;
  });
  protected readonly lockable = this.sequence.lockable;
  protected readonly locks = computed(() => {
    const instrument = this.sequence.instrument();
    return Object.entries(this.step().locks ?? {}).flatMap(([id, value]) => {
      const control = instrument?.controls.find((c) => c.id === id);
      if (!control) return [];
      const name = this.lockable().find((c) => c.id === id)?.name ?? control.name;
      return [{ id, name, reading: formatValue(control, value) }];
    });
  });
  /** Who gets the notes, where a keyboard shares them out by a rule. */
  protected readonly shared = computed(() => {
    const [instrument, patch, notes] = [
      this.sequence.instrument(),
      this.sequence.patch(),
      this.step().notes,
    ];
    if (!instrument || !patch || !notes || notes.length < 2) return '';
    const keyboard = compile(instrument, patch).nodes.find((n) => n.kind === 'keyboard');
    const rule = noteRules.find((r) => r === keyboard?.params['rule']) as NoteRule | undefined;
    if (!rule) return 'Each note has a voice of its own.';
    const got = allocate(notes, rule, 2);
    const silent = notes.filter((n) => !got.includes(n)).map(midiToNote);
    const heard = [...new Set(got)].map((n) => midiToNote(n!)).join(' and ');
    return silent.length === 0
      ? `Heard: ${heard}.`
      : `Heard: ${heard}. ${silent.join(' and ')} ${silent.length === 1 ? 'stays' : 'stay'} silent: the panel plays ${rule.replaceAll('-', ' ')}.`;
  });

  protected set(changes: Partial<PatternStep>): void {
    this.put({ ...this.step(), ...changes });
  }

  protected drop(key: keyof PatternStep): void {
    const { [key]: _, ...rest } = this.step();
    this.put(rest);
  }

  protected mark(key: 'accent' | 'slide' | 'tie'): void {
    if (this.step()[key]) return this.drop(key);
    if (key === 'tie') return this.put({ tie: true });
    this.set({ [key]: true });
  }

  protected setNotes(text: string): void {
    if (text.trim() === '') return this.drop('notes');
    const own = this.sequence.ownNote(this.sequence.track());
    const reading = parseSteps(text.trim().replace(/\s*\+\s*|\s+/g, '+'), own);
    const notes = reading.ok ? reading.steps[0]?.notes : undefined;
    if (this.expect('notes', notes !== undefined, 'Notes as c3 or c3+e3+g3.')) {
      const { tie: _, ...rest } = this.step();
      this.put({ ...rest, notes: notes! });
    }
  }

  protected setNumber(key: 'velocity' | 'length' | 'micro', text: string): void {
    if (text.trim() === '') return this.drop(key);
    const limits = { velocity: [1, 127], length: [0.05, 64], micro: [-50, 50] } as const;
    const value = Number(text.replace(',', '.').replace('%', ''));
    const [low, high] = limits[key];
    if (!this.expect(key, value >= low && value <= high, `${low} to ${high}.`)) return;
    this.set({
      [key]: key === 'micro' ? value / 100 : key === 'velocity' ? Math.round(value) : value,
    });
  }

  protected setCondition(condition: string): void {
    if (condition === '') this.drop('condition');
    else this.set({ condition });
  }

  protected addLock(id: string): void {
    const control = this.sequence.instrument()?.controls.find((c) => c.id === id);
    const setting = this.sequence.patch()?.settings[id];
    if (!control) return;
    const value =
      setting?.kind === 'set'
        ? setting.value
        : setting?.kind === 'range'
          ? setting.best
          : control.rest;
    this.set({ locks: { ...this.step().locks, [id]: value } });
  }

  protected setLock(id: string, text: string): void {
    const control = this.sequence.instrument()?.controls.find((c) => c.id === id);
    if (!control) return;
    const reading = parseReading(text, control);
    const value = reading.ok && reading.setting?.kind === 'set' ? reading.setting.value : undefined;
    const wanted = isSwitched(control) ? 'One of its positions.' : 'A reading of its scale.';
    if (this.expect(`lock-${id}`, value !== undefined, wanted))
      this.set({ locks: { ...this.step().locks, [id]: value! } });
  }

  protected dropLock(id: string): void {
    const { [id]: _, ...rest } = this.step().locks ?? {};
    if (Object.keys(rest).length === 0) this.drop('locks');
    else this.set({ locks: rest });
  }

  private put(step: PatternStep): void {
    this.sequence.editStep(step);
  }

  private expect(field: string, fits: boolean, message: string): boolean {
    this.errors.update(({ [field]: _, ...others }) =>
      fits ? others : { ...others, [field]: message },
    );
    return fits;
  }
}
