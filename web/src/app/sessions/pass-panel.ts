import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { movePass, type Pass, riserOf, withoutPass } from '@hurrel/core';
import { NumberField } from '../ui/number-field';
import { ToastService } from '../ui/toasts';
import { MixService } from './mix.service';
import { SessionDesk } from './session-desk';
import { SessionTakes } from './session-takes';

/** The pass that is looked at: what it plays, how loud and where, its take, and sweeps that fit its parts. */
@Component({
  selector: 'hur-pass-panel',
  imports: [NumberField, RouterLink],
  templateUrl: './pass-panel.html',
  styleUrl: './pass-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PassPanel {
  protected readonly desk = inject(SessionDesk);
  protected readonly takes = inject(SessionTakes);
  protected readonly mix = inject(MixService);
  private readonly toasts = inject(ToastService);
  protected readonly patterns = computed(
    () => this.desk.subjectOf(this.desk.pass())?.patch.patterns ?? [],
  );
  /** A sweep over each part that the pass plays in, in its instrument's own numbers. */
  protected readonly sweeps = computed(() => {
    const [session, subject] = [this.desk.session(), this.desk.subjectOf(this.desk.pass())];
    if (!session || !subject) return [];
    const patch = { ...subject.patch, tempo: session.tempo };
    return session.parts.flatMap((part) => {
      if (subject.pass.plays[part.id] === undefined) return [];
      const riser = riserOf(subject.instrument, patch, part.bars, 2);
      if (!riser) return [];
      const { control, reading } = riser.rate;
      const name = subject.instrument.controls.find((c) => c.id === control)?.name ?? control;
      const off = riser.timeError.toFixed(1);
      return [{ part: part.name, bars: part.bars, control: name, reading, off }];
    });
  });

  protected move(pass: Pass, by: number): void {
    const session = this.desk.session();
    if (session) this.desk.edit(movePass(session, pass.id, by));
  }

  protected drop(pass: Pass): void {
    const session = this.desk.session();
    if (!session) return;
    this.desk.edit(withoutPass(session, pass.id));
    this.toasts.show(`${pass.name}: removed.`, { label: 'Undo', run: () => this.desk.undo() });
  }
}
