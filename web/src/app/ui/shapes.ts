import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Shape } from '@hurrel/core';

/** Shapes of a panel drawing, with the pens and letters of whatever panel they stand in. */
@Component({
  selector: 'g[hurShapes]',
  template: `
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shapes {
  readonly shapes = input.required<readonly Shape[]>();
}
