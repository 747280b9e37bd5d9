import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type Instrument, type RebuildPlan, sectionsInOrder, type Step } from '@hurrel/core';

/** The panel as the hand sees it: where it was, where it goes, what is still to move. */
@Component({
  selector: 'hur-hand-map',
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + instrument().panel.width + ' ' + instrument().panel.height"
      role="img"
      aria-label="Where your hand goes"
    >
      @for (section of sections(); track section.id; let i = $index) {
        <rect
          class="section"
          [class.here]="section.id === here()?.section"
          [attr.x]="section.x"
          [attr.y]="section.y"
          [attr.width]="section.width"
          [attr.height]="section.height"
        />
        <text [attr.x]="section.x + 12" [attr.y]="section.y + 34">{{ i + 1 }}</text>
      }
      @for (dot of open(); track dot.id) {
        <circle class="open" [attr.cx]="dot.x" [attr.cy]="dot.y" r="7" />
      }
      @if (here(); as to) {
        @if (before(); as from) {
          <path class="way" [attr.d]="'M' + from.x + ' ' + from.y + 'L' + to.x + ' ' + to.y" />
          <circle class="from" [attr.cx]="from.x" [attr.cy]="from.y" r="10" />
        }
        <circle class="to" [attr.cx]="to.x" [attr.cy]="to.y" r="19" />
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
    }
    .section {
      fill: var(--paper);
      stroke: var(--rule);
      stroke-width: 2.5;
    }
    .here {
      fill: var(--accent-wash);
      stroke: var(--accent);
      stroke-width: 4;
    }
    text {
      fill: var(--ink-3);
      font: 600 28px var(--mono);
    }
    .open {
      fill: none;
      stroke: var(--ink-3);
      stroke-width: 2.5;
    }
    .way {
      fill: none;
      stroke: var(--accent);
      stroke-width: 4;
      stroke-dasharray: 9 7;
    }
    .from {
      fill: var(--paper);
      stroke: var(--accent);
      stroke-width: 4;
    }
    .to {
      fill: var(--accent);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandMap {
  readonly instrument = input.required<Instrument>();
  readonly plan = input<RebuildPlan | null>(null);
  readonly done = input<readonly string[]>([]);
  readonly step = input<Step | undefined>();
  readonly last = input<Step | undefined>();

  protected readonly sections = computed(() => sectionsInOrder(this.instrument()));
  protected readonly here = computed(() => this.placeOf(this.step()));
  protected readonly before = computed(() => this.placeOf(this.last()));
  protected readonly open = computed(() =>
    (this.plan()?.steps ?? [])
      .filter((s) => !this.done().includes(s.id))
      .flatMap((s) => this.placeOf(s) ?? []),
  );

  private placeOf(
    step: Step | undefined,
  ): { id: string; x: number; y: number; section: string } | null {
    if (!step) return null;
    const { controls, jacks, sections } = this.instrument();
    if (step.kind === 'rack' || step.kind === 'outboard') {
      const at = sections.find((s) => s.id === step.section);
      return at
        ? { id: step.id, x: at.x + at.width / 2, y: at.y + at.height / 2, section: at.id }
        : null;
    }
    const at =
      step.kind === 'movement'
        ? controls.find((c) => c.id === step.control)
        : 'jack' in step
          ? jacks.find((j) => j.id === step.jack)
          : undefined;
    return at ? { id: step.id, x: at.place.x, y: at.place.y, section: at.section } : null;
  }
}
