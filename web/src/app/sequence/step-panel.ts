import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  type Condition,
  conditionKind,
  conditionWords,
  formatValue,
  isSwitched,
  midiToNote,
  parseReading,
  parseSteps,
  PLAIN,
  type PatternStep,
} from '@hurrel/core';
import { SequenceService } from './sequence.service';
import { AssignmentService } from './assignment.service';
import { tellAssignment } from './tell-assignment';

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
import { PickOnce } from '../ui/pick-once';

/** All of the step that one stands on: notes, marks, numbers, condition, own values, and who gets the notes. */
@Component({
  selector: 'hur-step-panel',
  imports: [PickOnce],
  templateUrl: './step-panel.html',
  styleUrl: './step-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StepPanel {
  protected readonly sequence = inject(SequenceService);
  private readonly assignment = inject(AssignmentService);
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
  protected readonly movable = this.sequence.movable;
  protected readonly ownValues = computed(() => {
    const instrument = this.sequence.instrument();
    return Object.entries(this.step().ownValues ?? {}).flatMap(([id, value]) => {
      const control = instrument?.controls.find((c) => c.id === id);
      if (!control) return [];
      const name = this.movable().find((c) => c.id === id)?.name ?? control.name;
      return [{ id, name, reading: formatValue(control, value) }];
    });
  });
  /** The track has own values somewhere. */
  protected readonly hasOwn = computed(
    () => this.sequence.track()?.steps.some((s) => s.ownValues !== undefined) ?? false,
  );
  protected readonly ownFor = computed(() => this.sequence.track()?.ownFor);
  /** Who gets the notes when the pattern runs, other tracks included; nothing where each key has a voice to itself. */
  protected readonly shared = computed(() => {
    const rule = this.assignment.rule();
    const { track, step } = this.sequence.cursor();
    const all = this.assignment.assigned().filter((s) => s.track === track && s.step === step);
    // A step that is played more than once is told by its first time.
    const own = all.filter((s) => s.beat === all[0]?.beat);
    if (!rule || own.length === 0) return [];
    return own.map((s) => tellAssignment(s, rule));
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

  protected addOwn(id: string): void {
    const control = this.sequence.instrument()?.controls.find((c) => c.id === id);
    const setting = this.sequence.patch()?.settings[id];
    if (!control) return;
    const value =
      setting?.kind === 'set'
        ? setting.value
        : setting?.kind === 'range'
          ? setting.best
          : control.rest;
    this.set({ ownValues: { ...this.step().ownValues, [id]: value } });
  }

  protected setOwn(id: string, text: string): void {
    const control = this.sequence.instrument()?.controls.find((c) => c.id === id);
    if (!control) return;
    const reading = parseReading(text, control, undefined, this.sequence.patch()?.tempo);
    const value = reading.ok && reading.setting?.kind === 'set' ? reading.setting.value : undefined;
    const wanted = isSwitched(control) ? 'One of its positions.' : 'A reading of its scale.';
    if (this.expect(`own-${id}`, value !== undefined, wanted))
      this.set({ ownValues: { ...this.step().ownValues, [id]: value! } });
  }

  protected setOwnFor(ownFor: string): void {
    const track = this.sequence.track();
    if (track) this.sequence.editTrack({ ...track, ownFor: ownFor === 'step' ? 'step' : 'note' });
  }

  protected dropOwn(id: string): void {
    const { [id]: _, ...rest } = this.step().ownValues ?? {};
    if (Object.keys(rest).length === 0) this.drop('ownValues');
    else this.set({ ownValues: rest });
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
