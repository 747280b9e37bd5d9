import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatDuration, songTimes } from '@hurrel/core';
import { OfflineReady } from '../api/offline-ready';
import { SetDesk } from '../sets/set-desk';
import { OnDisk } from '../api/on-disk';
import { WalkLine } from '../walk/walk-line';
import { StageDesk } from './stage-desk';
import { SteadyClock } from './steady-clock';

/** How often the clock is looked at, in ms. */
const CLOCK_MS = 500;

/** Where one stands in the evening: the break, its time against what is still needed, and whether the others hear. */
@Component({
  selector: 'hur-stage-head',
  imports: [RouterLink],
  templateUrl: './stage-head.html',
  styleUrl: './stage-head.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageHead {
  readonly setId = input.required<string>();
  private readonly desk = inject(SetDesk);
  protected readonly stage = inject(StageDesk);
  protected readonly line = inject(WalkLine);
  protected readonly disk = inject(OnDisk);
  protected readonly time = formatDuration;
  private readonly steady = new SteadyClock();
  private readonly clock = signal(this.steady.now());
  /** Seconds by which the device's clock has jumped, which are not counted. */
  protected readonly jumped = signal(0);
  private readonly offline = inject(OfflineReady);
  /** With no server a reload would show this break again. */
  protected readonly canReload = this.offline.ready;

  /** Seconds of the break that are left; its length while it has not begun. */
  protected readonly left = computed(() => {
    const [song, begun] = [this.stage.song(), this.stage.begun()];
    if (!song) return 0;
    return begun === null ? song.pause : song.pause - (this.clock() - begun) / 1000;
  });
  /** When the song is to begin, where that is known. */
  protected readonly begins = computed(() => {
    const evening = this.desk.evening();
    return (evening && songTimes(evening).get(this.stage.song()?.id ?? '')) ?? '';
  });
  protected readonly short = computed(() => this.left() < this.stage.needs());
  protected readonly percent = computed(() => {
    const all = this.stage.work().length;
    return all === 0 ? 100 : Math.round((100 * (all - this.stage.turn().length)) / all);
  });

  constructor() {
    this.offline.watch();
    const timer = setInterval(() => this.look(), CLOCK_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  /** The time by which the clock has jumped was time: the device slept. */
  protected countJump(): void {
    this.steady.count();
    this.look();
  }

  private look(): void {
    this.clock.set(this.steady.now());
    this.jumped.set(Math.round(this.steady.jumped / 1000));
  }
}
