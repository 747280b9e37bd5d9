import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import {
  controlLabel,
  formatSetting,
  type Instrument,
  parseNoteLine,
  type Patch,
  type Setting,
} from '@hurrel/core';

/** Notes as they were jotted down, and what is understood of them, before anything is applied. */
@Component({
  selector: 'hur-note-lines',
  templateUrl: './note-lines.html',
  styleUrl: './note-lines.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoteLines {
  protected readonly dialog = inject(NgbActiveModal);
  protected readonly text = signal('');
  private readonly instrument = signal<Instrument | null>(null);
  private readonly patch = signal<Patch | null>(null);

  protected readonly items = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return [];
    return parseNoteLine(this.text(), instrument).map((item) => {
      const control = instrument.controls.find((c) => c.id === item.control);
      return {
        ...item,
        label: control ? controlLabel(instrument, control.id) : item.text,
        before: control ? formatSetting(control, patch.settings[control.id]) : '',
        after:
          control && item.setting !== undefined
            ? formatSetting(control, item.setting ?? undefined)
            : '',
      };
    });
  });
  protected readonly understood = computed(() =>
    this.items().filter((i) => i.setting !== undefined),
  );

  start(instrument: Instrument, patch: Patch, text: string): void {
    this.instrument.set(instrument);
    this.patch.set(patch);
    this.text.set(text);
  }

  protected apply(): void {
    const settings: Record<string, Setting | null> = {};
    for (const item of this.understood()) settings[item.control!] = item.setting ?? null;
    this.dialog.close(settings);
  }
}
