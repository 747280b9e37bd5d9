import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  type Signal,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { type Patch, roles } from '@hurrel/core';
import type { InstrumentSummary } from '../api/client';
import { PatchPicker } from '../picker/patch-picker';
import { LibraryService } from './library.service';

/** Where a new patch begins. */
@Component({
  selector: 'hur-new-patch-dialog',
  imports: [PatchPicker, ReactiveFormsModule],
  templateUrl: './new-patch-dialog.html',
  styles: `
    .fields {
      display: grid;
      gap: 12px;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
    fieldset label {
      display: flex;
      gap: 8px;
      padding: 4px 0;
    }
    legend {
      font-size: 13px;
      color: var(--ink-2);
    }
    small {
      display: block;
      color: var(--ink-3);
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPatchDialog {
  protected readonly dialog = inject(NgbActiveModal);
  private readonly library = inject(LibraryService);
  protected readonly roles = roles;
  private readonly listed = signal<Signal<InstrumentSummary[]>>(signal([]));
  private readonly known = signal<Signal<string[]>>(signal([]));
  protected readonly instruments = computed(() => this.listed()().filter((i) => !i.archived));
  protected readonly songs = computed(() => this.known()());
  protected readonly error = signal('');
  protected readonly busy = signal(false);
  protected readonly ways = [
    {
      value: 'start',
      label: 'The instrument’s start',
      hint: 'Every control where the panel rests',
    },
    { value: 'init', label: 'Init', hint: 'A plain sound to change' },
    {
      value: 'nothing',
      label: 'Nothing recorded yet',
      hint: 'To read a panel that is already set',
    },
    { value: 'patch', label: 'Another patch', hint: 'Its settings, notes and phrase' },
  ] as const;

  protected readonly form = inject(FormBuilder).nonNullable.group({
    name: ['', [Validators.required, Validators.maxLength(80), Validators.pattern(/\S/)]],
    song: ['', Validators.maxLength(80)],
    role: ['bass' as Patch['role']],
    instrument: ['', Validators.required],
    from: ['start' as 'start' | 'init' | 'nothing' | 'patch'],
    patchId: [''],
  });

  constructor() {
    // A patch belongs to its instrument: of another one it is another patch that is begun from.
    this.form.controls.instrument.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.form.patchValue({ patchId: '' }));
    effect(() => {
      const first = this.instruments()[0]?.id ?? '';
      untracked(() => {
        if (this.form.value.instrument === '') this.form.patchValue({ instrument: first });
      });
    });
  }

  /** What there is to choose from: it may still be on its way when the dialog opens. */
  start(instruments: Signal<InstrumentSummary[]>, songs: Signal<string[]>): void {
    this.listed.set(instruments);
    this.known.set(songs);
  }

  protected async create(): Promise<void> {
    if (this.form.invalid || this.busy()) return this.form.markAllAsTouched();
    const { name, song, role, instrument, from, patchId } = this.form.getRawValue();
    if (from === 'patch' && patchId === '') {
      return this.error.set('Pick the patch to begin from.');
    }
    this.busy.set(true);
    try {
      const stored = await this.library.create(
        from === 'patch' ? { from, patchId, name, song } : { from, instrument, name, song, role },
      );
      this.dialog.close(stored.id);
    } catch (error) {
      this.error.set((error as Error).message);
      this.busy.set(false);
    }
  }
}
