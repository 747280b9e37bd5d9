import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';
import { StageAgain } from './stage-again';
import { StageCheck } from './stage-check';
import { StageChecks } from './stage-checks';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

/** When nothing is left to move: which key tells that all is well, and how far the others are. */
@Component({
  selector: 'hur-stage-ready',
  imports: [StageAgain, StageCheck],
  templateUrl: './stage-ready.html',
  styleUrl: './stage-ready.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageReady {
  private readonly desk = inject(SetDesk);
  /** Panels that nobody had seen when the evening began. */
  protected readonly notSeen = this.desk.notSeen;
  protected readonly stage = inject(StageDesk);
  protected readonly checks = inject(StageChecks);
  protected readonly line = inject(WalkLine);
  private readonly turned = inject(TurnedByHand);

  /** Panels of this person on which the song plays something that is gone. */
  protected readonly gone = computed(() => {
    const here = new Set(this.stage.plays().map((p) => p.panel));
    return (this.desk.plan()?.gone ?? [])
      .filter((g) => g.song === this.stage.song()?.id && here.has(g.panel))
      .map((g) => g.panel);
  });
  /** How it stands, before the song's name. */
  protected readonly stands = computed(() => {
    if (this.stage.song()?.kind === 'reserve') return 'In reserve, and not planned:';
    if (this.turned.all().length > 0) return 'Only what was turned goes back for';
    if (this.stage.work().length > 0) return 'All set for';
    return this.gone().length > 0 ? 'Nothing known for' : 'Nothing to move for';
  });
}
