import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  type Checkpoint,
  midiToNote,
  noteToMidi,
  overwriteWarning,
  type Patch,
  type PhraseNote,
  readSlot,
  roles,
  sectionsInOrder,
  slotName,
  storedName,
} from '@hurrel/core';
import { Behind } from './behind';
import { FedIn } from './fed-in';
import { PatchFiles } from './patch-files';
import { unitsOf } from '../units/units-of';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { TransportService } from '../transport/transport.service';

/** What belongs to a patch besides its panel: names, tempo, revision, phrase, places to listen. */
@Component({
  selector: 'hur-details-page',
  imports: [Behind, FedIn, RouterLink],
  providers: [PatchFiles],
  templateUrl: './details-page.html',
  styleUrl: './details-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DetailsPage {
  private readonly store = inject(Store);
  protected readonly transport = inject(TransportService);
  protected readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly id = this.store.selectSignal(patchFeature.selectId);
  protected readonly files = inject(PatchFiles);
  protected readonly roles = roles;
  protected readonly name = midiToNote;
  protected readonly sections = computed(() => {
    const instrument = this.instrument();
    return instrument ? sectionsInOrder(instrument) : [];
  });
  /** The instrument's own memory, when it has one. */
  protected readonly memory = computed(() => {
    const memory = this.instrument()?.memory;
    return memory?.kind === 'slots' ? memory : null;
  });
  /** Units of this instrument that there are. */
  protected readonly units = unitsOf(() => this.instrument());
  /** Fields that were not understood, by name, with what was expected. */
  protected readonly errors = signal<Record<string, string>>({});

  protected change(changes: Partial<Patch>, gesture?: string): void {
    this.store.dispatch(PatchActions.change({ changes, ...(gesture ? { gesture } : {}) }));
  }

  protected placeName(): string {
    const [memory, stored] = [this.instrument()?.memory, this.patch()?.stored];
    return memory && stored ? slotName(memory, stored.bank, stored.slot) : '';
  }

  /** A place of the instrument, or none any more. */
  protected setPlace(text: string): void {
    const [memory, patch] = [this.memory(), this.patch()];
    if (!memory || !patch) return;
    if (text.trim() === '') {
      this.expect('place', true, '');
      return this.change({ stored: undefined });
    }
    const place = readSlot(memory, text);
    const last = slotName(memory, memory.banks, memory.slots);
    if (
      !this.expect(
        'place',
        place !== undefined,
        `A place from ${slotName(memory, 1, 1)} to ${last}.`,
      )
    )
      return;
    const name = patch.stored?.name ?? storedName(memory, patch.name).text;
    this.change({ stored: { ...place!, name } });
  }

  protected setStoredName(name: string): void {
    const { stored } = this.patch()!;
    if (stored) this.change({ stored: { ...stored, name: name.trim() } });
  }

  /** What is lost of the name there, and what would be lost of what the recorded unit has in that place. */
  protected readonly storedSays = computed(() => {
    const [memory, patch] = [this.memory(), this.patch()];
    if (!memory || !patch?.stored) return '';
    const { bank, slot, name } = patch.stored;
    const unit = this.units().find((u) => u.id === patch.unit)?.unit;
    const shown = storedName(memory, name);
    return [
      shown.text && shown.text !== name ? `There it reads ${shown.text}.` : '',
      shown.lost,
      unit ? overwriteWarning(memory, unit, bank, slot) : '',
      'Storing and naming are the last steps of the rebuild.',
    ]
      .filter(Boolean)
      .join(' ');
  });

  protected setName(name: string): void {
    if (this.expect('name', name.trim() !== '', 'A patch needs a name.'))
      this.change({ name: name.trim() }, 'name');
  }

  protected setTempo(text: string): void {
    const tempo = Number(text);
    if (this.expect('tempo', tempo >= 20 && tempo <= 400, 'Between 20 and 400 bpm.'))
      this.change({ tempo }, 'tempo');
  }

  protected setNote(index: number, field: keyof PhraseNote, text: string): void {
    const value = field === 'note' ? noteToMidi(text) : Number(text.replace(',', '.'));
    const limits: Record<keyof PhraseNote, [number, number, string]> = {
      note: [0, 127, 'A note as C3 or F#2.'],
      beat: [0, 256, 'Beats from 0 to 256.'],
      length: [0.01, 256, 'Beats above 0, up to 256.'],
      velocity: [1, 127, '1 to 127.'],
    };
    const [low, high, message] = limits[field];
    const fits = value !== undefined && value >= low && value <= high;
    if (!this.expect(`${field}-${index}`, fits, message)) return;
    const whole = field === 'velocity' ? Math.round(value!) : value!;
    const phrase = this.patch()!.phrase.map((n, i) => (i === index ? { ...n, [field]: whole } : n));
    this.change({ phrase });
  }

  protected addNote(): void {
    const phrase = this.patch()!.phrase;
    const last = phrase.at(-1);
    const next = last
      ? { ...last, beat: last.beat + Math.max(last.length, 0.25) }
      : { beat: 0, length: 1, note: 48, velocity: 100 };
    this.change({ phrase: [...phrase, next] });
  }

  protected dropNote(index: number): void {
    this.change({ phrase: this.patch()!.phrase.filter((_, i) => i !== index) });
  }

  protected setCheckpoint(index: number, changes: Partial<Checkpoint>): void {
    if (
      changes.hear !== undefined &&
      !this.expect(`hear-${index}`, changes.hear.trim() !== '', 'Say what one should hear.')
    )
      return;
    const checkpoints = this.patch()!.checkpoints.map((c, i) =>
      i === index ? { ...c, ...changes } : c,
    );
    this.change({ checkpoints }, changes.hear === undefined ? undefined : `hear-${index}`);
  }

  protected setCheckpointNote(index: number, text: string): void {
    const note = noteToMidi(text);
    if (
      this.expect(
        `check-${index}`,
        note !== undefined && note >= 0 && note <= 127,
        'A note as C3 or F#2.',
      )
    ) {
      this.setCheckpoint(index, { note: note! });
    }
  }

  protected addCheckpoint(): void {
    const after = this.sections()[0]!.id;
    const note = this.patch()!.phrase[0]?.note ?? 48;
    this.change({
      checkpoints: [...this.patch()!.checkpoints, { after, note, hear: 'the sound so far' }],
    });
  }

  protected dropCheckpoint(index: number): void {
    this.change({ checkpoints: this.patch()!.checkpoints.filter((_, i) => i !== index) });
  }

  private expect(field: string, fits: boolean, message: string): boolean {
    this.errors.update(({ [field]: _, ...others }) =>
      fits ? others : { ...others, [field]: message },
    );
    return fits;
  }
}
