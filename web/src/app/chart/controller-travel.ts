import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import {
  Act,
  controlLabel,
  type Ends,
  type Instrument,
  type Patch,
  type TravelEnds,
  type TravelPoint,
} from '@hurrel/core';
import { line, scaleLinear, scaleLog } from 'd3';
import { LiveService } from '../sound/live.service';
import { proxy } from 'comlink';
import type { TravelRequest, TravelWorker } from '../sound/messages';
import { ask } from '../workers/ask';
import { startWorker } from '../workers/start';

const WIDTH = 260;
const HEIGHT = 84;

/** What a wheel, pedal, bender or the touch of the keys does at its ends: in words, heard, and drawn over its travel. */
@Component({
  selector: 'hur-controller-travel',
  template: `
    <h3>{{ name() }} from end to end</h3>
    <div class="ends">
      @for (end of ends; track end.key) {
        <div>
          <label>
            {{ end.says() }}
            <input
              #tellField
              class="form-control"
              maxlength="200"
              [value]="told()[end.key]"
              [placeholder]="end.key === 'low' ? 'dark, for the verse' : 'bright, for the run'"
              (change)="tell(end.key, tellField.value)"
            />
          </label>
          <button type="button" class="btn" (click)="hear(end.travel)">
            <i class="bi bi-play-fill" aria-hidden="true"></i> hear
          </button>
        </div>
      }
    </div>
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="summary()">
      <path class="axis" [attr.d]="'M28 4V' + (height - 16) + 'H' + (width - 34)" />
      <path class="level" [attr.d]="drawing().level" />
      <path class="bright" [attr.d]="drawing().bright" />
      <text x="24" y="10" class="tick end">{{ drawing().top }}</text>
      <text x="24" [attr.y]="height - 18" class="tick end">{{ drawing().bottom }}</text>
      <text [attr.x]="width - 30" y="10" class="tick bright-tick">{{ drawing().brightest }}</text>
      <text [attr.x]="width - 30" [attr.y]="height - 18" class="tick bright-tick">
        {{ drawing().darkest }}
      </text>
      <text x="28" [attr.y]="height - 3" class="tick">0%</text>
      <text [attr.x]="width - 34" [attr.y]="height - 3" class="tick end">100%</text>
    </svg>
    <p class="quiet">
      level in dB, <span class="bright-tick">brightness in Hz</span> on the played note
      @if (points().length < 9) {
        <span role="status">· {{ points().length }} of 9 places</span>
      }
    </p>
    @if (warning(); as text) {
      <p class="warn" role="status">{{ text }}</p>
    }
  `,
  styles: `
    h3 {
      margin: 0 0 4px;
      color: var(--ink-2);
      font-size: 13px;
    }
    .ends > div {
      display: flex;
      gap: 6px;
      align-items: end;
      margin-bottom: 4px;
    }
    label {
      flex: 1;
      color: var(--ink-2);
      font-size: 12.5px;
    }
    .form-control {
      padding: 4px 7px;
      font-size: 13.5px;
    }
    .btn {
      padding: 4px 8px;
      font-size: 13px;
    }
    svg {
      display: block;
      width: 100%;
    }
    path {
      fill: none;
    }
    .axis {
      stroke: var(--ink-3);
    }
    .level {
      stroke: var(--ink);
      stroke-width: 2;
    }
    .bright {
      stroke: var(--near);
      stroke-width: 2;
      stroke-dasharray: 5 3;
    }
    .tick {
      fill: var(--ink-2);
      font: 500 10px var(--mono);
    }
    .end {
      text-anchor: end;
    }
    .bright-tick {
      color: var(--near);
      fill: var(--near);
    }
    p {
      margin: 2px 0 0;
      font-size: 12.5px;
    }
    .warn {
      padding: 6px 8px;
      border-left: 5px solid var(--odd);
      background: var(--odd-wash);
      font-size: 13.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ControllerTravel {
  readonly instrument = input.required<Instrument>();
  readonly patch = input.required<Patch>();
  readonly controller = input.required<string>();
  readonly note = input(48);
  readonly written = output<Ends>();

  private readonly live = inject(LiveService);
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly points = signal<TravelPoint[]>([]);
  private readonly found = signal<TravelEnds | null>(null);
  protected readonly ends = [
    { key: 'low' as const, travel: 0, says: () => (this.isPedal() ? 'heel down' : 'down') },
    { key: 'high' as const, travel: 1, says: () => (this.isPedal() ? 'toe down' : 'up') },
  ];
  private readonly control = computed(() =>
    this.instrument().controls.find((c) => c.id === this.controller()),
  );
  protected readonly isPedal = computed(() => this.control()?.kind === 'pedal');
  protected readonly name = computed(() =>
    this.control() ? controlLabel(this.instrument(), this.controller()) : this.controller(),
  );
  protected readonly told = computed<Ends>(
    () => this.patch().ends[this.controller()] ?? { low: '', high: '' },
  );
  protected readonly drawing = computed(() => draw(this.points()));
  protected readonly summary = computed(() => {
    const [low, high] = [this.points().at(0), this.points().at(-1)];
    if (!low || !high) return 'Level and brightness over the travel';
    return `From ${Math.round(low.level)} dB and ${Math.round(low.brightness)} Hz to ${Math.round(high.level)} dB and ${Math.round(high.brightness)} Hz`;
  });
  protected readonly warning = computed(() => {
    const ends = this.found();
    if (!ends || (!ends.low && !ends.high)) return '';
    if (ends.low && ends.high) return 'Nothing is heard anywhere on its travel.';
    const end = ends.high ? this.ends[1]!.says() : this.ends[0]!.says();
    const travel = (ends.keep ?? 0).toFixed(2);
    return ends.high
      ? `Silent at ${end}. Attenuated to ${travel}, it keeps sounding.`
      : `Silent at ${end}. From ${travel} of the travel on it sounds.`;
  });

  constructor() {
    effect((cleanup) => {
      const request: TravelRequest = {
        instrument: this.instrument(),
        patch: this.patch(),
        controller: this.controller(),
        note: this.note(),
      };
      this.points.set([]);
      this.found.set(null);
      // Walked through once the hand rests; a new edit begins anew.
      const work = new AbortController();
      const tell = (point: TravelPoint): void => {
        if (work.signal.aborted) return;
        this.points.update((all) => [...all, point].sort((a, b) => a.travel - b.travel));
      };
      const timer = setTimeout(() => {
        const worker = startWorker('travel');
        ask<TravelWorker, TravelEnds>(worker, (of) => of.travel(request, proxy(tell)), work.signal)
          .then((ends) => this.found.set(ends))
          // Edited on, or not to be computed: the drawing shows what there is.
          .catch(() => undefined);
      }, 300);
      cleanup(() => {
        clearTimeout(timer);
        work.abort();
      });
    });
  }

  protected tell(end: keyof Ends, text: string): void {
    this.written.emit({ ...this.told(), [end]: text.trim() });
  }

  /** Plays the phrase with the controller at one end. */
  protected hear(travel: number): void {
    const [patch, controller] = [this.patch(), this.controller()];
    if (this.control()) {
      const settings = { ...patch.settings, [controller]: { kind: 'set', value: travel } as const };
      this.live.playInstead({ ...patch, settings }, patch.phrase);
      return;
    }
    if (controller === 'pressure') this.live.act(Act.pressure, 0, travel);
    if (controller === 'bend') this.live.act(Act.bend, 0, travel === 0 ? -1 : 1);
    const velocity = travel === 0 ? 12 : 127;
    const phrase = patch.phrase.map((n) => (controller === 'velocity' ? { ...n, velocity } : n));
    this.live.playPhrase(patch, phrase, false);
  }
}

function draw(points: readonly TravelPoint[]) {
  const levels = points.map((p) => p.level);
  const top = Math.ceil(Math.max(-100, ...levels) / 6) * 6;
  const bottom = Math.min(top - 12, Math.floor(Math.min(0, ...levels, top - 12) / 6) * 6);
  const hertz = points.map((p) => Math.max(20, p.brightness));
  const [dark, bright] = [Math.min(...hertz, 20000) / 1.1, Math.max(...hertz, 40) * 1.1];
  const x = scaleLinear([0, 1], [28, WIDTH - 34]);
  const level = scaleLinear([bottom, top], [HEIGHT - 16, 6]).clamp(true);
  const brightness = scaleLog([dark, bright], [HEIGHT - 16, 6]).clamp(true);
  const short = (hz: number): string =>
    hz >= 1000 ? `${(hz / 1000).toFixed(1)}k` : String(Math.round(hz));
  const some = points.length > 1;
  return {
    level: some
      ? line<TravelPoint>(
          (p) => x(p.travel),
          (p) => level(p.level),
        )(points)!
      : '',
    bright: some
      ? line<TravelPoint>(
          (p) => x(p.travel),
          (p) => brightness(Math.max(20, p.brightness)),
        )(points)!
      : '',
    top: some ? top : '',
    bottom: some ? bottom : '',
    brightest: some ? short(bright) : '',
    darkest: some ? short(dark) : '',
  };
}
