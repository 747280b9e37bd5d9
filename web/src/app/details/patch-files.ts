import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  panelSvg,
  parseNoteLine,
  readSettingsCsv,
  settingsCsv,
  writeNoteLines,
} from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { download, fileName, svgToPng } from '../ui/download';
import { ToastService } from '../ui/toasts';

/** The open patch as a picture, a table or lines of notes, and back. */
@Injectable()
export class PatchFiles {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  private readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  private readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  /** What of a file was not understood. */
  readonly faults = signal<string[]>([]);

  async savePng(): Promise<void> {
    const [patch, instrument] = [this.patch(), this.instrument()];
    if (!patch || !instrument) return;
    try {
      const png = await svgToPng(panelSvg(instrument, patch));
      download(fileName(patch.name, 'png'), png, 'image/png');
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  saveCsv(): void {
    const [patch, instrument] = [this.patch(), this.instrument()];
    if (!patch || !instrument) return;
    download(fileName(patch.name, 'csv'), settingsCsv(instrument, [patch]), 'text/csv');
  }

  saveLines(): void {
    const [patch, instrument] = [this.patch(), this.instrument()];
    if (patch && instrument)
      download(fileName(patch.name, 'txt'), writeNoteLines(instrument, patch), 'text/plain');
  }

  /** Takes what every line says, or nothing; all of it is one step to undo. */
  async takeLines(field: HTMLInputElement): Promise<void> {
    const [patch, instrument, file] = [this.patch(), this.instrument(), field.files?.[0]];
    if (!patch || !instrument || !file) return;
    const items = parseNoteLine(await file.text(), instrument, patch.tempo);
    field.value = '';
    const wrong = items.filter((i) => i.error !== undefined);
    this.faults.set(wrong.slice(0, 6).map((f) => `${file.name}, "${f.text}": ${f.error}`));
    if (items.length === 0) this.faults.set([`${file.name} says nothing of this panel.`]);
    if (wrong.length > 0 || items.length === 0) return;
    const settings = Object.fromEntries(
      items.flatMap((i) => (i.control && i.setting ? [[i.control, i.setting] as const] : [])),
    );
    this.store.dispatch(PatchActions.setControls({ settings }));
    this.toasts.show(`${Object.keys(settings).length} settings taken from ${file.name}.`);
  }

  /** Takes the column that has the patch's name, or the first; all of it is one step to undo. */
  async takeCsv(field: HTMLInputElement): Promise<void> {
    const [patch, instrument, file] = [this.patch(), this.instrument(), field.files?.[0]];
    if (!patch || !instrument || !file) return;
    const { columns, faults } = readSettingsCsv(await file.text(), instrument);
    field.value = '';
    this.faults.set(
      faults
        .slice(0, 6)
        .map((f) => `${file.name}, line ${f.line}, column ${f.column}: ${f.message}`),
    );
    const column = columns.find((c) => c.name === patch.name) ?? columns[0];
    if (!column || faults.length > 0) return;
    const settings = Object.fromEntries(
      Object.entries(column.settings).flatMap(([id, s]) => (s ? [[id, s] as const] : [])),
    );
    this.store.dispatch(PatchActions.setControls({ settings }));
    this.toasts.show(`${Object.keys(settings).length} settings taken from ${column.name}.`);
  }
}
