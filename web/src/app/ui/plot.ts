import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { axisBottom, axisLeft, curveLinear, format, line, scaleLinear, scaleLog, select } from 'd3';

/** A line of a plot. */
export interface Trace {
  points: readonly (readonly [number, number])[];
  style: 'line' | 'dashed' | 'bars';
  /** Read on the right axis. */
  right?: boolean;
}

export interface PlotAxis {
  from: number;
  to: number;
  log?: boolean;
  ticks: number[];
  /** How a tick is written. */
  label?: (value: number) => string;
}

const MARGIN = { left: 34, right: 8, top: 8, bottom: 19 };

/** A small plot with axes and units, drawn with D3. Scales do not move by themselves: what changes is the sound. */
@Component({
  selector: 'hur-plot',
  template: `<svg #canvas role="img" [attr.aria-label]="summary()"></svg>`,
  styles: `
    :host {
      display: block;
      min-width: 0;
      min-height: 0;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
      overflow: visible;
    }
    svg ::ng-deep .tick text {
      fill: var(--ink-3);
      font-family: var(--text);
      font-size: 10.5px;
    }
    svg ::ng-deep .tick line,
    svg ::ng-deep .domain {
      stroke: var(--rule);
    }
    svg ::ng-deep .grid line {
      stroke: var(--rule-2);
    }
    svg ::ng-deep .right .tick text {
      fill: var(--near);
    }
    svg ::ng-deep .trace {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.6;
      stroke-linejoin: round;
    }
    svg ::ng-deep .trace.dashed {
      stroke: var(--near);
      stroke-dasharray: 5 3;
    }
    svg ::ng-deep .trace.bars {
      stroke: var(--accent);
      stroke-width: 2;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Plot {
  readonly x = input.required<PlotAxis>();
  readonly y = input.required<PlotAxis>();
  readonly right = input<PlotAxis>();
  readonly traces = input.required<Trace[]>();
  readonly summary = input.required<string>();

  private readonly canvas = viewChild.required<ElementRef<SVGSVGElement>>('canvas');
  private readonly size = signal({ width: 0, height: 0 });
  private readonly margin = computed(() => ({
    ...MARGIN,
    right: this.right() ? 38 : MARGIN.right,
  }));

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      this.size.set({ width, height });
    });
    observer.observe(host);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    effect(() => this.draw());
  }

  private draw(): void {
    const { width, height } = this.size();
    const margin = this.margin();
    const svg = select(this.canvas().nativeElement);
    if (width < 60 || height < 40) return;
    svg.attr('viewBox', `0 0 ${width} ${height}`);
    const x = scaleOf(this.x(), margin.left, width - margin.right);
    const y = scaleOf(this.y(), height - margin.bottom, margin.top);
    const rightAxis = this.right();
    const right = rightAxis && scaleOf(rightAxis, height - margin.bottom, margin.top);
    const group = (name: string) =>
      svg.selectAll<SVGGElement, string>(`g.${name}`).data([name]).join('g').attr('class', name);

    group('grid')
      .attr('transform', `translate(${margin.left},0)`)
      .call(
        axisLeft(y)
          .tickValues(this.y().ticks)
          .tickSize(-(width - margin.left - margin.right))
          .tickFormat(() => '') as never,
      )
      .call((g) => g.select('.domain').remove());
    group('bottom')
      .attr('transform', `translate(0,${height - margin.bottom})`)
      .call(
        axisBottom(x)
          .tickValues(this.x().ticks)
          .tickFormat(label(this.x()))
          .tickSizeOuter(0) as never,
      );
    group('left')
      .attr('transform', `translate(${margin.left},0)`)
      .call(
        axisLeft(y)
          .tickValues(this.y().ticks)
          .tickFormat(label(this.y()))
          .tickSizeOuter(0) as never,
      );
    if (right && rightAxis) {
      group('right')
        .attr('transform', `translate(${width - margin.right},0)`)
        .call((g) => {
          g.selectAll('g.tick')
            .data(rightAxis.ticks)
            .join((enter) => {
              const tick = enter.append('g').attr('class', 'tick');
              tick.append('text').attr('x', 4).attr('dy', '0.32em');
              return tick;
            })
            .attr('transform', (d) => `translate(0,${right(d)})`)
            .select('text')
            .text((d) => label(rightAxis)(d));
        });
    }
    const bottom = height - margin.bottom;
    svg
      .selectAll<SVGPathElement, Trace>('path.trace')
      .data(this.traces())
      .join('path')
      .attr('class', (t) => `trace ${t.style}`)
      .attr('d', (t) => {
        const scale = t.right && right ? right : y;
        const top = margin.top;
        const held = (v: number): number => Math.min(bottom, Math.max(top, scale(v)!));
        if (t.style === 'bars') {
          return t.points
            .map(([px, py]) => `M${x(px)!.toFixed(1)} ${bottom}V${held(py).toFixed(1)}`)
            .join('');
        }
        return line<readonly [number, number]>()
          .x(([px]) => x(px)!)
          .y(([, py]) => held(py))
          .curve(curveLinear)(t.points as [number, number][]);
      });
  }
}

const scaleOf = (axis: PlotAxis, from: number, to: number) =>
  (axis.log ? scaleLog() : scaleLinear()).domain([axis.from, axis.to]).range([from, to]);

const plain = format('~g');
const label = (axis: PlotAxis) => (value: unknown) =>
  axis.label ? axis.label(Number(value)) : plain(Number(value));
