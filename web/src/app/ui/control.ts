import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  type Control,
  controlBox,
  drawControl,
  formatSetting,
  isSwitched,
  type Setting,
  type Severity,
  soundingValue,
} from '@hurrel/core';
import equal from 'fast-deep-equal';

/** Grades of weight in words. */
const WEIGHTS = ['', 'matters little', 'matters', 'deserves the ear'];

/** One control of a panel: drawn as recorded, reachable with the keyboard. The panel around it listens. */
@Component({
  selector: 'g[hurControl]',
  template: `
    <svg:rect
      class="field"
      [attr.x]="area().x"
      [attr.y]="area().y"
      [attr.width]="area().width"
      [attr.height]="area().height"
      rx="3"
    />
    @for (shape of shapes(); track $index) {
      @if (shape.kind === 'path') {
        <svg:path [attr.class]="'pen-' + shape.pen" [attr.d]="shape.d" />
      } @else {
        <svg:text
          [attr.class]="'letter-' + shape.lettering"
          [attr.x]="shape.x"
          [attr.y]="shape.y"
          [attr.font-size]="shape.size"
        >
          {{ shape.text }}
        </svg:text>
      }
    }
    @if (rows()) {
      <svg:text class="rows" [attr.x]="area().x + 2" [attr.y]="rowsAt()">{{ rows() }}</svg:text>
    }
    @if (grade() > 0) {
      <svg:path class="grade" [attr.d]="bars()" />
    }
    @if (away()) {
      <svg:path
        class="away"
        [attr.d]="
          'M' +
          (area().x + 4) +
          ' ' +
          (area().y + area().height - 4) +
          'L' +
          (area().x + area().width - 4) +
          ' ' +
          (area().y + 4)
        "
      />
    }
    @if (noted()) {
      <svg:path
        class="noted"
        [attr.d]="'M' + (area().x + area().width - 9) + ' ' + area().y + 'h9v9Z'"
      />
    }
  `,
  host: {
    role: 'slider',
    '[attr.transform]': 'where()',
    tabindex: '0',
    '[attr.data-control]': 'control().id',
    '[attr.data-kind]': 'setting()?.kind ?? "none"',
    '[attr.aria-label]': 'label()',
    '[attr.aria-valuetext]': 'spoken()',
    '[attr.aria-description]': 'described() || null',
    '[attr.aria-valuenow]': 'now()',
    'aria-valuemin': '0',
    '[attr.aria-valuemax]': 'most()',
    '[class.chosen]': 'chosen()',
    '[class.faulty]': 'fault() === "silent" || fault() === "wrong"',
    '[class.idle]': 'fault() === "idle"',
  },
  styles: `
    :host {
      outline: none;
      cursor: pointer;
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
    :host(:focus-visible) .field {
      stroke: var(--accent);
      stroke-width: 3;
    }
    :host(.faulty) .field {
      stroke: var(--bad);
      stroke-width: 1.8;
      stroke-dasharray: 6 3;
    }
    .grade {
      fill: none;
      stroke: var(--good);
      stroke-width: 3;
    }
    .rows {
      fill: var(--wire-modulation);
      font: 680 10.5px var(--mono);
      text-anchor: start;
    }
    .away {
      fill: none;
      stroke: var(--bad);
      stroke-width: 2;
      stroke-dasharray: 7 4;
    }
    .noted {
      fill: var(--accent);
      stroke: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ControlView {
  readonly control = input.required<Control>();
  readonly setting = input<Setting | undefined>();
  readonly section = input('');
  readonly chosen = input(false);
  readonly noted = input(false);
  readonly fault = input<Severity | undefined>();

  /** Of the letters of its name, in panel units. */
  readonly nameSize = input<number | undefined>();
  /** How much it matters in this patch, 0 to 3. */
  readonly grade = input(0);
  /** Matrix rows that begin or end here: `2→ →5`. */
  readonly rows = input('');
  /** It is taken away for the moment. */
  readonly away = input(false);

  protected readonly where = computed(() => {
    const { x, y } = this.control().place;
    return `translate(${x} ${y})`;
  });
  /** The control in coordinates of its own: one that is only moved is not drawn anew. */
  private readonly own = computed<Control>(
    () => ({ ...this.control(), place: { ...this.control().place, x: 0, y: 0 } }),
    { equal },
  );

  /** One upright stroke a grade, where no other mark stands. */
  protected readonly bars = computed(() => {
    const { x, y } = this.area();
    return Array.from({ length: this.grade() }, (_, i) => `M${x + 5 + 5 * i} ${y + 3}v8`).join('');
  });
  /** Where no mark stands: above a dial, below a straight travel. */
  protected readonly rowsAt = computed(() => {
    const straight = ['wheel', 'pedal', 'slider'].includes(this.own().kind);
    return straight ? this.area().y + this.area().height - 16 : this.area().y + 8;
  });
  protected readonly area = computed(() => controlBox(this.own(), this.setting()));
  protected readonly shapes = computed(() =>
    drawControl(this.own(), this.setting(), this.nameSize()),
  );
  protected readonly label = computed(() => `${this.section()} ${this.own().name}`);
  protected readonly spoken = computed(() => {
    const setting = this.setting();
    if (!setting) return 'not recorded';
    return setting.kind === 'any' ? 'does not matter' : formatSetting(this.own(), setting);
  });
  protected readonly described = computed(() =>
    [
      WEIGHTS[this.grade()],
      this.rows() ? `matrix rows ${this.rows()}` : '',
      this.away() ? 'taken away for the moment' : '',
    ]
      .filter(Boolean)
      .join(', '),
  );
  protected readonly most = computed(() => {
    const control = this.own();
    return isSwitched(control) ? control.positions.length - 1 : 100;
  });
  protected readonly now = computed(() => {
    const control = this.own();
    const value = soundingValue(control, this.setting());
    return isSwitched(control)
      ? control.positions.findIndex((p) => p.id === value)
      : Math.round(Number(value) * 100);
  });
}
