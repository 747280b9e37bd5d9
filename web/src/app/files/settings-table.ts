import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { controlsOfCsv, type Instrument, readSettingsCsv, type SettingsColumn } from '@hurrel/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { descriptionFor, newestDescription } from '../api/description';
import { InstrumentsService } from '../instruments/instruments.service';

interface Line {
  column: SettingsColumn;
  /** Readings that it says. */
  count: number;
  /** Patch that takes them; empty: none. */
  patch: string;
  done: string;
}

/** A table of settings that comes in: each column goes to a patch, all of one column or nothing. */
@Component({
  selector: 'hur-settings-table',
  templateUrl: './settings-table.html',
  styleUrl: './some-patches.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SettingsTable {
  readonly patches = input.required<readonly PatchSummary[]>();
  /** Something was stored. */
  readonly taken = output();
  private readonly api = inject(API);
  private readonly instruments = inject(InstrumentsService);

  protected readonly name = signal('');
  protected readonly instrument = signal<Instrument | null>(null);
  protected readonly lines = signal<Line[]>([]);
  protected readonly faults = signal<string[]>([]);
  protected readonly busy = signal(false);
  protected readonly offered = computed(() => {
    const id = this.instrument()?.id;
    return this.patches().filter((p) => p.instrument === id);
  });
  protected readonly coming = computed(
    () => this.lines().filter((l) => l.patch !== '' && l.done === '').length,
  );

  protected async choose(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (!file || this.busy()) return;
    this.lines.set([]);
    this.faults.set([]);
    this.name.set(file.name);
    this.busy.set(true);
    try {
      await this.read(await file.text());
    } catch (error) {
      this.faults.set([(error as Error).message]);
    }
    this.busy.set(false);
  }

  protected to(index: number, patch: string): void {
    this.lines.update((all) => all.map((l, i) => (i === index ? { ...l, patch } : l)));
  }

  protected async take(): Promise<void> {
    this.busy.set(true);
    for (const [index, line] of this.lines().entries()) {
      if (line.patch === '' || line.done !== '') continue;
      const done = await this.store(line).catch((error: unknown) => (error as Error).message);
      this.lines.update((all) => all.map((l, i) => (i === index ? { ...l, done } : l)));
    }
    this.busy.set(false);
    this.taken.emit();
  }

  /** The instrument whose controls the lines name, and a patch of each column's name. */
  private async read(text: string): Promise<void> {
    const named = new Set(controlsOfCsv(text));
    let best: { panel: Instrument; known: number } | null = null;
    for (const { id } of await this.instruments.list()) {
      const panel = await newestDescription(this.api, id);
      const known = panel.controls.filter((c) => named.has(c.id)).length;
      if (known > (best?.known ?? 0)) best = { panel, known };
    }
    if (!best) throw new Error(`${this.name()} names no control of any instrument here.`);
    const { panel } = best;
    const { columns, faults } = readSettingsCsv(text, panel);
    this.instrument.set(panel);
    const told = faults.map((f) => `Line ${f.line}, column ${f.column}: ${f.message}`);
    this.faults.set(told.length > 6 ? [...told.slice(0, 6), `and ${told.length - 6} more`] : told);
    if (faults.length > 0) return;
    this.lines.set(
      columns.map((column) => ({
        column,
        count: Object.keys(column.settings).length,
        patch: this.offered().find((p) => p.name === column.name)?.id ?? '',
        done: '',
      })),
    );
  }

  /** @returns what became of it */
  private async store({ column, patch: id }: Line): Promise<string> {
    const stored = await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } }));
    const own = await descriptionFor(this.api, stored.patch);
    const gone = Object.keys(column.settings).find((c) => !own.controls.some((o) => o.id === c));
    if (gone !== undefined)
      return `It stands on another description, without ${gone}: carry it over first.`;
    const settings = { ...stored.patch.settings };
    for (const [control, setting] of Object.entries(column.settings)) {
      if (setting) settings[control] = setting;
      else delete settings[control];
    }
    const { version } = await answer<{ version: number }>(
      this.api.patches[':id'].$put({
        param: { id },
        header: { 'if-match': `"${stored.version}"` },
        json: { ...stored.patch, settings },
      }),
    );
    return version === stored.version ? 'the same already' : `taken, version ${version}`;
  }
}
