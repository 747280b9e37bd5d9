import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { midiToNote, type Picture } from '@hurrel/core';
import { Plot, type PlotAxis, type Trace } from '../ui/plot';

const HZ: PlotAxis = {
  from: 20,
  to: 20000,
  log: true,
  ticks: [20, 100, 1000, 10000],
  label: hertz,
};
const NOTES = [24, 36, 43, 48, 55, 60, 67, 72, 84];

/** What is heard and seen of the patch at every moment. */
@Component({
  selector: 'hur-strip',
  imports: [Plot],
  templateUrl: './strip.html',
  styleUrl: './strip.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Strip {
  readonly picture = input<Picture | null>(null);
  readonly note = input.required<number>();
  /** Its circuit is described. */
  readonly modelled = input(true);
  readonly noteChange = output<number>();

  protected readonly hz = HZ;
  protected readonly db: PlotAxis = { from: -90, to: 0, ticks: [-90, -60, -30, 0] };
  protected readonly level: PlotAxis = { from: -60, to: 0, ticks: [-60, -40, -20, 0] };
  protected readonly name = midiToNote;
  protected readonly notes = computed(() =>
    [...new Set([...NOTES, this.note()])].sort((a, b) => a - b),
  );

  protected readonly silent = computed(
    () => this.modelled() && (this.picture()?.peakVolts ?? 1) < 0.005,
  );
  protected readonly volts = computed<PlotAxis>(() => {
    const peak = this.picture()?.peakVolts ?? 5;
    const top = [1, 2, 5, 10, 20].find((v) => v >= peak) ?? 20;
    return { from: -top, to: top, ticks: [-top, 0, top] };
  });
  protected readonly periodAxis = computed<PlotAxis>(() => {
    const ms = (this.picture()?.period.at(-1)?.time ?? 0.01) * 1000 || 1;
    const step = [0.2, 0.5, 1, 2, 5, 10, 20].find((s) => ms / s <= 6) ?? 50;
    const ticks = Array.from({ length: Math.floor(ms / step) + 1 }, (_, i) => i * step);
    return { from: 0, to: ms, ticks };
  });
  protected readonly period = computed<Trace[]>(() => [
    { style: 'line', points: (this.picture()?.period ?? []).map((p) => [p.time * 1000, p.value]) },
  ]);
  protected readonly spectrum = computed<Trace[]>(() => [
    {
      style: 'bars',
      points: (this.picture()?.spectrum ?? []).filter((p) => p.db > -90).map((p) => [p.hz, p.db]),
    },
  ]);
  protected readonly paths = computed<Trace[]>(() => {
    const picture = this.picture();
    if (!picture) return [];
    const cutoff: Trace = {
      style: 'dashed',
      right: true,
      points: picture.cutoff.map((p) => [p.time, p.value]),
    };
    return [{ style: 'line', points: picture.level.map((p) => [p.time, p.value]) }, cutoff];
  });
  protected readonly time: PlotAxis = { from: 0, to: 2, ticks: [0, 0.5, 1, 1.5, 2] };
  protected readonly told = computed(() => {
    const picture = this.picture();
    if (!this.modelled()) return 'No circuit yet';
    if (!picture) return 'Rendering';
    if (this.silent()) return 'Silent';
    const pitch = picture.fundamental ? `${picture.fundamental.toFixed(1)} Hz` : 'no pitch';
    return `${pitch}, ${picture.peakVolts.toFixed(1)} V peak`;
  });
}

function hertz(value: number): string {
  return value >= 1000 ? `${value / 1000}k` : String(value);
}
