import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawJack, type Jack, jackBox, jackRadius, signalMark } from '@hurrel/core';
import { Shapes } from './shapes';

const SIGNALS: Record<Jack['signal'], string> = {
  audio: 'audio',
  pitch: 'pitch',
  modulation: 'modulation',
  gate: 'gate',
  's-trigger': 'S-trigger',
  clock: 'clock',
};

/** What a jack carries, in words. */
export const jackWords = (jack: Jack): string =>
  [
    SIGNALS[jack.signal] + (jack.direction === 'in' ? ' in' : ' out'),
    jack.signal === 'pitch' ? (jack.standard ?? 'V/oct') : '',
    jack.level ? `up to ${jack.level} V` : '',
  ]
    .filter(Boolean)
    .join(', ');

/** One jack of a panel. The panel around it listens. */
@Component({
  selector: 'g[hurJack]',
  imports: [Shapes],
  template: `
    <svg:rect
      class="field"
      [attr.x]="area().x"
      [attr.y]="area().y"
      [attr.width]="area().width"
      [attr.height]="area().height"
      rx="3"
    />
    <svg:g hurShapes [shapes]="shapes()" />
    @if (plug(); as signal) {
      <svg:path class="plug" [class]="signal" [attr.d]="plugMark()" />
    }
  `,
  host: {
    role: 'button',
    tabindex: '0',
    '[attr.data-jack]': 'jack().id',
    '[attr.aria-label]': 'label()',
    '[class.chosen]': 'chosen()',
    '[class.wanted]': 'wanted()',
    '[class.barred]': 'barred()',
  },
  styles: `
    :host {
      outline: none;
      cursor: crosshair;
      touch-action: none;
    }
    .field {
      fill: transparent;
      stroke: none;
    }
    :host(:hover) .field {
      fill: var(--accent-wash);
      fill-opacity: 0.45;
    }
    :host(.chosen) .field {
      fill: var(--accent-wash);
      stroke: var(--accent);
      stroke-width: 1.2;
    }
    :host(.wanted) .field {
      stroke: var(--good);
      stroke-width: 1.4;
      stroke-dasharray: 3 2;
    }
    :host(.barred) {
      opacity: 0.35;
    }
    :host(:focus-visible) .field {
      stroke: var(--accent);
      stroke-width: 3;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class JackView {
  readonly jack = input.required<Jack>();
  /** How large its name is written, in panel units. */
  readonly nameSize = input<number>();
  readonly section = input('');
  /** What is plugged in, in words. */
  readonly plugged = input('');
  /** What the cable in it carries; undefined when nothing is plugged in. */
  readonly plug = input<Jack['signal'] | undefined>();
  readonly chosen = input(false);
  /** A cable that is being drawn may end here, or may not. */
  readonly wanted = input(false);
  readonly barred = input(false);

  protected readonly area = computed(() => jackBox(this.jack()));
  protected readonly shapes = computed(() => drawJack(this.jack(), this.nameSize()));
  protected readonly plugMark = computed(() => {
    const { x, y } = this.jack().place;
    return signalMark(this.plug()!, x, y, Math.max(4.5, jackRadius(this.jack()) * 0.8));
  });
  protected readonly label = computed(() =>
    [`${this.section()} ${this.jack().name} jack`, jackWords(this.jack()), this.plugged()]
      .filter(Boolean)
      .join(', '),
  );
}
