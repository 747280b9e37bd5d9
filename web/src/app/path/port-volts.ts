import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  signal,
  untracked,
} from '@angular/core';
import { type Instrument, moduleSpec, type Patch, type PathNode, type Volts } from '@hurrel/core';
import type { VoltsWorker } from '../sound/messages';
import { ask, Cancelled } from '../workers/ask';
import { startWorker } from '../workers/start';

/** Ms after the last change until it is rendered anew. */
const PAUSE = 300;
/** Less direct current than this, in V, is none; less than the second is not worth a sentence at the output. */
const SOME = 0.02;
const MUCH = 0.1;

/** What stands at the jacks of one module, and what direct current comes to the output, rendered while the first note is held. */
@Component({
  selector: 'hur-port-volts',
  template: `
    @if (error(); as text) {
      <p role="alert">{{ text }}</p>
    } @else if (!volts()) {
      <p class="quiet">Rendering what stands there …</p>
    } @else {
      @if (here().length > 0) {
        <h3>While the first note is held</h3>
        <dl>
          @for (one of here(); track one.port) {
            <dt>{{ one.port === 'in' ? 'comes in' : one.port }}</dt>
            <dd>
              <strong class="mono">{{ says(one.low) }} to {{ says(one.high) }} V</strong>
              @if (direct(one); as some) {
                <span>{{ some }} V of it direct</span>
              }
            </dd>
          }
        </dl>
      }
      @if (kept(); as some) {
        <p class="kept">
          <strong class="mono">{{ some }} V</strong> of direct current come to the output. Its
          sockets let none of it out.
        </p>
      }
    }
  `,
  styles: `
    h3 {
      margin: 10px 0 2px;
      color: var(--ink-2);
      font-size: 13.5px;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 2px 12px;
      margin: 0;
      font-size: 14px;
    }
    dd {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
      margin: 0;
    }
    dd span {
      color: var(--ink-2);
    }
    p {
      margin: 8px 0 0;
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PortVolts {
  readonly instrument = input.required<Instrument>();
  readonly patch = input.required<Patch>();
  /** The module that is looked at, if any. */
  readonly node = input<PathNode>();
  /** The module whose sockets are heard. */
  readonly heard = input.required<string>();

  protected readonly volts = signal<readonly Volts[] | null>(null);
  protected readonly error = signal('');
  protected readonly here = computed(() =>
    (this.volts() ?? []).filter((v) => v.node === this.node()?.id),
  );
  /** What the output keeps back, in words; empty when there is nothing. */
  protected readonly kept = computed(() => {
    const coming = this.volts()?.find((v) => v.node === this.heard() && v.port === 'in');
    return coming && Math.abs(coming.direct) >= MUCH ? inVolts(coming.direct) : '';
  });

  constructor() {
    effect((onCleanup) => {
      const request = { instrument: this.instrument(), patch: this.patch() };
      const stop = new AbortController();
      const timer = setTimeout(() => void this.render(request, stop.signal), PAUSE);
      onCleanup(() => {
        clearTimeout(timer);
        stop.abort();
      });
      untracked(() => this.volts.set(null));
    });
  }

  protected says(volts: number): string {
    return inVolts(volts);
  }

  /** Of what is heard, in words; a voltage that moves something is told by its ends. */
  protected direct({ port, direct }: Volts): string {
    const node = this.node();
    const audio = port === 'in' || (node && moduleSpec(node.kind).outputs[port] === 'audio');
    return audio && Math.abs(direct) >= SOME ? inVolts(direct) : '';
  }

  private async render(
    request: { instrument: Instrument; patch: Patch },
    signal: AbortSignal,
  ): Promise<void> {
    try {
      const volts = await ask<VoltsWorker, Volts[]>(
        startWorker('volts'),
        (of) => of.volts(request),
        signal,
      );
      this.volts.set(volts);
      this.error.set('');
    } catch (error) {
      if (!(error instanceof Cancelled)) this.error.set((error as Error).message);
    }
  }
}

/** Volts to two places, with a minus sign and no minus nought. */
const inVolts = (volts: number): string =>
  (Math.round(100 * volts) / 100 + 0).toFixed(2).replace('-', '\u2212');
