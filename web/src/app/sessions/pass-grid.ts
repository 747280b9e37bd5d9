import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { addPart, cyclePlay, type Pass, type SongPart, withoutPart, withPart } from '@hurrel/core';
import { NumberField } from '../ui/number-field';
import { MixService } from './mix.service';
import { SessionDesk } from './session-desk';

/** Passes over the parts of the song, columns as wide as their bars. */
@Component({
  selector: 'hur-pass-grid',
  imports: [NumberField],
  templateUrl: './pass-grid.html',
  styleUrl: './pass-grid.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PassGrid {
  protected readonly desk = inject(SessionDesk);
  protected readonly mix = inject(MixService);
  protected readonly columns = computed(() => {
    const parts = this.desk.session()?.parts ?? [];
    return `230px ${parts.map((p) => `minmax(64px, ${p.bars}fr)`).join(' ')}`;
  });
  /** Where what plays stands, as a share of the whole. */
  protected readonly share = computed(() =>
    this.desk.seconds() > 0 ? Math.min(1, this.mix.at() / this.desk.seconds()) : 0,
  );

  protected variationName(pass: Pass, part: string): string {
    const id = pass.plays[part];
    if (id === undefined) return '';
    if (id === '') return 'as it is';
    return this.desk.variationsOf(pass).find((v) => v.id === id)?.name ?? id;
  }

  protected addPart(): void {
    const session = this.desk.session();
    if (session) this.desk.edit(addPart(session));
  }

  protected dropPart(part: SongPart): void {
    const session = this.desk.session();
    if (session) this.desk.edit(withoutPart(session, part.id));
  }

  protected changePart(part: SongPart, changes: Partial<SongPart>): void {
    const session = this.desk.session();
    if (session) this.desk.edit(withPart(session, part.id, changes));
  }

  protected cycle(pass: Pass, part: SongPart): void {
    const session = this.desk.session();
    if (!session) return;
    const variations = this.desk.variationsOf(pass).map((v) => v.id);
    this.desk.edit(cyclePlay(session, pass.id, part.id, variations));
  }
}
