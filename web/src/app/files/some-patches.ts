import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { readingsAlike, settingsCsv } from '@hurrel/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { download, fileName } from '../ui/download';

const ROW_PX = 34;
/** As many as the address of one file takes. */
const MOST = 400;

/** Patches that are chosen by hand: out as one file, or their settings as one table. */
@Component({
  selector: 'hur-some-patches',
  imports: [ScrollingModule],
  templateUrl: './some-patches.html',
  styleUrl: './some-patches.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SomePatches {
  readonly patches = input.required<readonly PatchSummary[]>();
  private readonly api = inject(API);

  protected readonly rowPx = ROW_PX;
  protected readonly words = signal('');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly says = signal('');
  protected readonly fault = signal('');
  protected readonly shown = computed(() => {
    const words = this.words().toLowerCase().split(/\s+/).filter(Boolean);
    return this.patches().filter((p) => {
      const text = `${p.name} ${p.song} ${p.role} ${p.instrument}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
  });
  protected readonly allShown = computed(
    () => this.shown().length > 0 && this.shown().every((p) => this.chosen().has(p.id)),
  );
  private readonly ids = computed(() => [...this.chosen()]);
  protected readonly href = computed(() => `/api/v1/parcel.zip?patches=${this.ids().join(',')}`);
  protected readonly tooMany = computed(() => this.chosen().size > MOST);

  protected readonly byId = (_: number, patch: PatchSummary): string => patch.id;

  protected choose(id: string, on: boolean): void {
    this.chosen.update((now) => {
      const next = new Set(now);
      if (on) next.add(id);
      else next.delete(id);
      return next;
    });
  }

  protected chooseShown(on: boolean): void {
    for (const { id } of this.shown()) this.choose(id, on);
  }

  /** One table of them all, when all can be read on one description. */
  protected async saveTable(): Promise<void> {
    this.fault.set('');
    const ids = this.ids();
    try {
      const stored: StoredPatch[] = [];
      for (const id of ids) {
        this.says.set(`Reading ${stored.length + 1} of ${ids.length}`);
        stored.push(await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } })));
      }
      const [first] = stored;
      if (!first) return;
      const panel = await descriptionFor(this.api, first.patch);
      for (const { patch } of stored) {
        const own = await descriptionFor(this.api, patch);
        if (own.id !== panel.id)
          throw new Error(
            `A table is of one instrument: ${patch.name} is on ${own.name}, ${first.patch.name} on ${panel.name}.`,
          );
        if (!readingsAlike(own, panel))
          throw new Error(
            `${patch.name} stands on another description of ${own.name}: carry it over first.`,
          );
      }
      const patches = stored.map((s) => s.patch);
      download(fileName(`${panel.name} settings`, 'csv'), settingsCsv(panel, patches), 'text/csv');
    } catch (error) {
      this.fault.set((error as Error).message);
    }
    this.says.set('');
  }
}
