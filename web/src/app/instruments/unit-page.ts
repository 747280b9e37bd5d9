import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import {
  calibrationFault,
  type CalibrationPoint,
  controlLabel,
  expectedReadings,
  faceOf,
  formatPhysical,
  formatValue,
  freeSlots,
  inWorkingOrder,
  type Instrument,
  isSwitched,
  measuredAgainst,
  overwriteWarning,
  parseReading,
  type Slot,
  slotAt,
  slotName,
  storedName,
  taperValue,
  type Unit,
} from '@hurrel/core';
import { answer, API, type PatchSummary } from '../api/client';
import { Places } from '../ui/places';
import { ToastService } from '../ui/toasts';
import { type StoredUnit, UnitsService } from './units.service';

interface Place {
  bank: number;
  slot: number;
  name: string;
  there: Slot | undefined;
}

/** One unit: what its dials really come to, and what is in its memory. */
@Component({
  selector: 'hur-unit-page',
  imports: [RouterLink, Places],
  templateUrl: './unit-page.html',
  styleUrl: './instruments.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitPage {
  readonly id = input.required<string>();

  private readonly api = inject(API);
  private readonly units = inject(UnitsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  private readonly stored = signal<StoredUnit | null>(null);
  protected readonly instrument = signal<Instrument | null>(null);
  protected readonly patches = signal<PatchSummary[]>([]);
  protected readonly error = signal('');
  protected readonly said = signal('');
  protected readonly saving = signal('');
  protected readonly chosen = signal<string | null>(null);
  protected readonly place = signal<{ bank: number; slot: number } | null>(null);
  /** Name as it is being typed. */
  protected readonly wanted = signal('');
  protected readonly measures = measuredAgainst;

  protected readonly unit = computed(() => this.stored()?.unit);
  protected readonly measurable = computed(() => {
    const instrument = this.instrument();
    if (!instrument) return [];
    return inWorkingOrder(instrument)
      .filter((c) => !isSwitched(c) && c.bindings.length > 0)
      .map((c) => ({ id: c.id, label: controlLabel(instrument, c.id) }));
  });
  protected readonly control = computed(() => {
    const id = this.chosen() ?? this.measurable()[0]?.id;
    const found = this.instrument()?.controls.find((c) => c.id === id);
    return found && !isSwitched(found) ? found : undefined;
  });
  protected readonly expected = computed(() => {
    const control = this.control();
    return control ? formatValue(control, 0.5) : '';
  });
  protected readonly nominal = computed(() => {
    const taper = this.control()?.bindings[0]?.taper;
    return taper ? formatPhysical(taperValue(taper, 0.5), taper.unit) : '';
  });
  protected readonly points = computed(() => {
    const [unit, instrument] = [this.unit(), this.instrument()];
    if (!unit || !instrument) return [];
    return Object.entries(unit.calibration).flatMap(([id, points]) => {
      const control = instrument.controls.find((c) => c.id === id);
      if (!control || isSwitched(control)) return [];
      const { taper } = control.bindings[0]!;
      return points.map((p) => {
        const nominal = taperValue(taper, p.at);
        const ratio = taper.kind === 'exponential' && taper.unit === 'Hz';
        return {
          key: `${id}-${p.at}`,
          control: id,
          at: p.at,
          label: controlLabel(instrument, id),
          reading: formatValue(control, p.at),
          value: formatPhysical(p.value, taper.unit),
          nominal: formatPhysical(nominal, taper.unit),
          off: ratio
            ? `${signed(Math.round(1200 * Math.log2(p.value / nominal)))} cents`
            : signed(Math.round((p.value - nominal) * 100) / 100),
          against: p.against,
        };
      });
    });
  });
  protected readonly memory = computed(() => {
    const memory = this.instrument()?.memory;
    return memory?.kind === 'slots' ? memory : undefined;
  });
  protected readonly free = computed(() =>
    this.memory() && this.unit() ? freeSlots(this.memory()!, this.unit()!).length : 0,
  );
  protected readonly banks = computed(() => {
    const [memory, unit] = [this.memory(), this.unit()];
    if (!memory || !unit) return [];
    return Array.from({ length: memory.banks }, (_, b) => ({
      number: b + 1,
      places: Array.from({ length: memory.slots }, (_, s): Place => ({
        bank: b + 1,
        slot: s + 1,
        name: slotName(memory, b + 1, s + 1),
        there: slotAt(unit, b + 1, s + 1),
      })),
    }));
  });
  protected readonly there = computed(() => {
    const [unit, place] = [this.unit(), this.place()];
    return unit && place ? slotAt(unit, place.bank, place.slot) : undefined;
  });
  protected readonly warning = computed(() => {
    const [memory, unit, place] = [this.memory(), this.unit(), this.place()];
    return memory && unit && place ? overwriteWarning(memory, unit, place.bank, place.slot) : '';
  });
  /** What a name costs to enter on the instrument. */
  protected readonly cost = computed(() => {
    const memory = this.memory();
    if (!memory) return '';
    const name = storedName(memory, this.wanted());
    if (name.text === '') return name.lost;
    return `On the instrument "${name.text}": ${name.detents} detents, about ${name.seconds} s. ${name.lost}`;
  });

  constructor() {
    effect(() => void this.read(this.id()));
  }

  protected placeName(bank: number, slot: number): string {
    return slotName(this.memory()!, bank, slot);
  }

  protected placeLabel(place: Place): string {
    const there = place.there;
    if (!there) return `${place.name}, free`;
    return `${place.name} ${there.name || 'no name'}${there.needed ? ', needed' : ''}`;
  }

  protected isChosen(bank: number, slot: number): boolean {
    const place = this.place();
    return place?.bank === bank && place.slot === slot;
  }

  protected choosePlace(bank: number, slot: number): void {
    this.place.set({ bank, slot });
    this.wanted.set(this.there()?.name ?? '');
  }

  protected change(changes: Partial<Unit>): void {
    const unit = this.unit();
    if (!unit || changes.name?.trim() === '') return;
    void this.save({ ...unit, ...changes });
  }

  /** Takes a reading and what it came to. */
  protected measure(
    reading: HTMLInputElement,
    value: HTMLInputElement,
    against: HTMLSelectElement,
  ): void {
    const [control, unit] = [this.control(), this.unit()];
    if (!control || !unit) return;
    const parsed = parseReading(reading.value, control);
    const setting = parsed.ok ? parsed.setting : null;
    if (setting?.kind !== 'set' || typeof setting.value !== 'number') {
      this.said.set(`What does it read? Expected ${expectedReadings(control)}.`);
      return reading.focus();
    }
    const number = Number.parseFloat(value.value.replace(',', '.'));
    if (!Number.isFinite(number)) {
      this.said.set('What does it come to? Expected a number, as 440 or 6.5.');
      return value.focus();
    }
    const khz = /k\s*hz/i.test(value.value) ? 1000 : 1;
    const ms = /ms/i.test(value.value) ? 0.001 : 1;
    const point: CalibrationPoint = {
      at: setting.value,
      value: number * khz * ms,
      against: against.value as CalibrationPoint['against'],
    };
    const points = [
      ...(unit.calibration[control.id] ?? []).filter((p) => p.at !== point.at),
      point,
    ];
    points.sort((a, b) => a.at - b.at);
    const fault = calibrationFault(control, points);
    if (fault) return this.said.set(fault);
    this.said.set('');
    this.change({ calibration: { ...unit.calibration, [control.id]: points } });
    for (const field of [reading, value]) field.value = '';
    reading.focus();
  }

  protected forget(control: string, at: number): void {
    const unit = this.unit()!;
    const points = unit.calibration[control]!.filter((p) => p.at !== at);
    const calibration = { ...unit.calibration, [control]: points };
    if (points.length === 0) delete calibration[control];
    this.change({ calibration });
  }

  protected store(changes: Partial<Slot>): void {
    const [unit, place, memory] = [this.unit(), this.place(), this.memory()];
    if (!unit || !place || !memory) return;
    const before = this.there() ?? { ...place, name: '', needed: false, note: '' };
    const slot: Slot = { ...before, ...changes };
    slot.name = storedName(memory, slot.name).text;
    if (slot.patch === undefined) delete slot.patch;
    const others = unit.slots.filter((s) => s.bank !== place.bank || s.slot !== place.slot);
    this.change({
      slots: [...others, slot].sort((a, b) => a.bank - b.bank || a.slot - b.slot),
    });
    this.wanted.set(slot.name);
  }

  protected storePatch(id: string): void {
    const patch = this.patches().find((p) => p.id === id);
    const named = this.there()?.name;
    this.store({
      patch: id === '' ? undefined : id,
      ...(patch && !named ? { name: patch.name } : {}),
    });
  }

  protected empty(): void {
    const [unit, place] = [this.unit()!, this.place()!];
    const before = unit.slots;
    this.change({
      slots: before.filter((s) => s.bank !== place.bank || s.slot !== place.slot),
    });
    this.wanted.set('');
    this.toasts.show(`${this.placeName(place.bank, place.slot)} is free.`, {
      label: 'Undo',
      run: () => this.change({ slots: before }),
    });
  }

  protected print(): void {
    window.print();
  }

  protected async remove(): Promise<void> {
    const stored = this.stored();
    if (!stored) return;
    try {
      await this.units.remove(stored);
      void this.router.navigate(['/instruments']);
      this.toasts.show(`"${stored.unit.name}" is removed.`, {
        label: 'Undo',
        run: () => void this.again(stored.unit),
      });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async again(unit: Unit): Promise<void> {
    const made = await this.units.add(unit);
    void this.router.navigate(['/unit', made.id]);
  }

  /** Writes go one after another, each on top of the last. */
  private queue: Promise<void> = Promise.resolve();
  private save(unit: Unit): Promise<void> {
    this.stored.update((s) => (s ? { ...s, unit } : s));
    this.saving.set('Saving');
    this.queue = this.queue.then(async () => {
      try {
        const saved = await this.units.save(this.stored()!, unit);
        this.stored.update((s) => (s ? { ...s, version: saved.version } : s));
        this.saving.set('Saved');
      } catch (error) {
        this.saving.set('Not saved');
        this.said.set((error as Error).message);
        await this.read(this.id());
      }
    });
    return this.queue;
  }

  private async read(id: string): Promise<void> {
    try {
      const stored = await this.units.get(id);
      this.stored.set(stored);
      const { instrument } = stored.unit;
      this.instrument.set(
        faceOf(
          await answer<Instrument>(this.api.instruments[':id'].$get({ param: { id: instrument } })),
        ),
      );
      const { items } = await answer<{ items: PatchSummary[] }>(
        this.api.patches.$get({ query: { instrument, size: '200' } }),
      );
      this.patches.set(items);
    } catch (error) {
      this.error.set(`${(error as Error).message} Go back to the instruments and try again.`);
    }
  }
}

const signed = (value: number): string => (value > 0 ? `+${value}` : String(value));
