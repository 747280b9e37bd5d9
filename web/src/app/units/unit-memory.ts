import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { freeSlots, overwriteWarning, type Slot, slotAt, slotName, storedName } from '@hurrel/core';
import { answer, API, type StoredPatch } from '../api/client';
import { ShownPanel } from '../shown/shown-panel';
import { type Offer, PatchPicker } from '../picker/patch-picker';
import { ToastService } from '../ui/toasts';
import { UnitDesk } from './unit-desk';

interface SlotShown {
  bank: number;
  slot: number;
  name: string;
  there: Slot | undefined;
}

/** What is in a unit's memory, place by place. */
@Component({
  selector: 'hur-unit-memory',
  imports: [PatchPicker],
  templateUrl: './unit-memory.html',
  styleUrl: './unit-memory.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitMemory {
  protected readonly desk = inject(UnitDesk);
  private readonly toasts = inject(ToastService);
  private readonly api = inject(API);
  private readonly shown = inject(ShownPanel);
  protected readonly place = signal<{ bank: number; slot: number } | null>(null);
  /** Name as it is being typed. */
  protected readonly wanted = signal('');
  protected readonly none = [{ id: '', name: 'none' }];

  protected readonly free = computed(() => {
    const [memory, unit] = [this.desk.memory(), this.desk.unit()];
    return memory && unit ? freeSlots(memory, unit).length : 0;
  });

  protected readonly banks = computed(() => {
    const [memory, unit] = [this.desk.memory(), this.desk.unit()];
    if (!memory || !unit) return [];
    return Array.from({ length: memory.banks }, (_, b) => ({
      number: b + 1,
      places: Array.from({ length: memory.slots }, (_, s): SlotShown => ({
        bank: b + 1,
        slot: s + 1,
        name: slotName(memory, b + 1, s + 1),
        there: slotAt(unit, b + 1, s + 1),
      })),
    }));
  });

  protected readonly there = computed(() => {
    const [unit, place] = [this.desk.unit(), this.place()];
    return unit && place ? slotAt(unit, place.bank, place.slot) : undefined;
  });

  protected readonly warning = computed(() => {
    const [memory, unit, place] = [this.desk.memory(), this.desk.unit(), this.place()];
    return memory && unit && place ? overwriteWarning(memory, unit, place.bank, place.slot) : '';
  });

  /** What a name costs to enter on the instrument. */
  protected readonly cost = computed(() => {
    const memory = this.desk.memory();
    if (!memory) return '';
    const name = storedName(memory, this.wanted());
    if (name.text === '') return name.lost;
    return `On the instrument "${name.text}": ${name.detents} detents, about ${name.seconds} s. ${name.lost}`;
  });

  protected placeName(bank: number, slot: number): string {
    const memory = this.desk.memory();
    return memory ? slotName(memory, bank, slot) : '';
  }

  protected slotLabel(place: SlotShown): string {
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

  protected store(changes: Partial<Slot>): void {
    const [unit, place, memory] = [this.desk.unit(), this.place(), this.desk.memory()];
    if (!unit || !place || !memory) return;
    const before = this.there() ?? { ...place, name: '', needed: false, note: '' };
    const slot: Slot = { ...before, ...changes };
    slot.name = storedName(memory, slot.name).text;
    if (slot.patch === undefined) delete slot.patch;
    const others = unit.slots.filter((s) => s.bank !== place.bank || s.slot !== place.slot);
    this.desk.change({
      slots: [...others, slot].sort((a, b) => a.bank - b.bank || a.slot - b.slot),
    });
    this.wanted.set(slot.name);
  }

  protected storePatch({ id, name }: Offer): void {
    const named = this.there()?.name;
    if (id === '') this.store({ patch: undefined });
    else this.store({ patch: id, ...(named ? {} : { name }) });
  }

  protected empty(): void {
    const [unit, place, gone] = [this.desk.unit(), this.place(), this.there()];
    if (!unit || !place || !gone) return;
    this.desk.change({ slots: unit.slots.filter((s) => s !== gone) });
    this.wanted.set('');
    this.toasts.show(`${this.placeName(place.bank, place.slot)} is free.`, {
      label: 'Undo',
      run: () => this.desk.undo(),
    });
  }

  /** What lay in a place was loaded: the panel shows it. */
  protected async loaded(id: string): Promise<void> {
    try {
      const { patch } = await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } }));
      this.shown.loads({ id, name: patch.name, patch });
      this.toasts.show(`The panel shows ${patch.name}.`);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  protected print(): void {
    window.print();
  }
}
