import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import type { InstrumentSummary } from '../api/client';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { InstrumentsService } from './instruments.service';
import { type StoredUnit, UnitsService } from '../units/units.service';

/** All instruments, and one's own units of them. */
@Component({
  selector: 'hur-instruments-page',
  imports: [NgbDropdownModule, MainPages, RouterLink],
  templateUrl: './instruments-page.html',
  styleUrl: './instruments.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InstrumentsPage {
  private readonly service = inject(InstrumentsService);
  private readonly units = inject(UnitsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly instruments = signal<InstrumentSummary[]>([]);
  private readonly all = signal<StoredUnit[]>([]);
  protected readonly error = signal('');
  protected readonly words = signal('');
  protected readonly showAway = signal(false);
  protected readonly away = computed(() => this.instruments().filter((i) => i.archived).length);
  protected readonly shown = computed(() => {
    const words = this.words().toLowerCase().split(/\s+/);
    return this.instruments().filter(({ maker, name, summary, archived }) => {
      const text = `${maker} ${name} ${summary}`.toLowerCase();
      return (!archived || this.showAway()) && words.every((word) => text.includes(word));
    });
  });

  constructor() {
    void this.read();
  }

  protected unitsOf(instrument: string): StoredUnit[] {
    return this.all().filter((u) => u.unit.instrument === instrument);
  }

  protected facts({ unit }: StoredUnit): string {
    const measured = Object.keys(unit.calibration).length;
    const places = unit.slots.length;
    return [
      measured === 0 ? 'not calibrated' : `${measured} controls measured`,
      places > 0 ? `${places} places known` : '',
    ]
      .filter(Boolean)
      .join(' · ');
  }

  protected sayOf({ controls, patches, readyMade, modelled, version }: InstrumentSummary): string {
    return [
      `${controls} controls`,
      patches === 0 ? '' : patches === 1 ? '1 patch' : `${patches} patches`,
      readyMade ? 'ready-made' : `your own, version ${version}`,
      modelled ? '' : 'no circuit yet',
    ]
      .filter(Boolean)
      .join(' · ');
  }

  /** A blank sheet, to be typed on. */
  protected async begin(name: HTMLInputElement, maker: HTMLInputElement): Promise<void> {
    const words = name.value.trim();
    if (words === '') return name.focus();
    try {
      const { id } = await this.service.begin(words, maker.value.trim());
      void this.router.navigate(['/instrument', id]);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  /** Kept for what was recorded on it, and offered for nothing new. */
  protected async putAway({ id, name }: InstrumentSummary, away: boolean): Promise<void> {
    try {
      await this.service.putAway(id, away);
      this.instruments.update((all) =>
        all.map((i) => (i.id === id ? { ...i, archived: away } : i)),
      );
      this.toasts.show(`${name} is ${away ? 'put away' : 'taken out again'}.`, {
        label: 'Undo',
        run: () => {
          const now = this.instruments().find((i) => i.id === id);
          if (now) void this.putAway(now, !away);
        },
      });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  protected async remove({ id, name, version }: InstrumentSummary): Promise<void> {
    try {
      await this.service.remove(id, version);
      await this.read();
      this.toasts.show(`${name} is removed.`, {
        label: 'Undo',
        run: () => void this.service.restore(id).then(() => this.read()),
      });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  protected async add(instrument: string, field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (name === '') return field.focus();
    try {
      const made = await this.units.add({ instrument, name, note: '', calibration: {}, slots: [] });
      void this.router.navigate(['/unit', made.id]);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async read(): Promise<void> {
    try {
      this.instruments.set(await this.service.list());
      this.all.set(await this.units.of());
    } catch (error) {
      this.error.set(`${(error as Error).message} Check that Hurrel is running, then reload.`);
    }
  }
}
