import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Feed, feedSchema, type Patch } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { NumberField } from '../ui/number-field';
import { SoundsService } from './sounds.service';

/** A recording that is fed into an input of the panel: which, into which, how it starts. */
@Component({
  selector: 'hur-fed-in',
  imports: [NumberField],
  templateUrl: './fed-in.html',
  styleUrl: './behind.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FedIn {
  private readonly store = inject(Store);
  private readonly sounds = inject(SoundsService);
  protected readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  private readonly open = this.store.selectSignal(patchFeature.selectId);
  private readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly busy = signal(false);
  protected readonly fault = signal('');
  /** Inputs that lead somewhere, those for sound first. */
  protected readonly inputs = computed(() => {
    const all = (this.instrument()?.jacks ?? []).filter((j) => j.direction === 'in' && j.port);
    const isAudio = (signal: string): number => (signal === 'audio' ? 0 : 1);
    return all.sort((a, b) => isAudio(a.signal) - isAudio(b.signal));
  });
  /** Inputs that hold a plug already. */
  protected readonly taken = computed(
    () =>
      new Set(
        (this.patch()?.cables ?? []).flatMap((c) => (c.inactive ? [] : [c.from ?? '', c.to ?? ''])),
      ),
  );

  /** Sends a file and feeds it in, into the first input that is free; one that was fed in keeps its way. */
  protected async choose(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    if (!file) return;
    const free = this.inputs().find((j) => !this.taken().has(j.id)) ?? this.inputs()[0];
    if (!free) return;
    const of = this.open();
    this.busy.set(true);
    this.fault.set('');
    try {
      const { id } = await this.sounds.send(file);
      // Another patch may be open by now: it is not that one's.
      if (this.open() !== of) return;
      const name = file.name.replace(/\.[^.]*$/, '').slice(0, 80) || 'recording';
      const before = this.patch()?.feed ?? { jack: free.id };
      this.change(feedSchema.parse({ ...before, sound: id, name }));
    } catch (error) {
      this.fault.set((error as Error).message);
    } finally {
      this.busy.set(false);
    }
  }

  protected say(changes: Partial<Feed>): void {
    const feed = this.patch()?.feed;
    if (feed) this.change({ ...feed, ...changes });
  }

  /** An empty name leaves the old one. */
  protected rename(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') field.value = this.patch()?.feed?.name ?? '';
    else this.say({ name });
  }

  protected take(): void {
    this.change(undefined);
  }

  private change(feed: Feed | undefined): void {
    this.store.dispatch(PatchActions.change({ changes: { feed } as Partial<Patch> }));
  }
}
