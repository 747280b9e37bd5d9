import { inject, Injectable } from '@angular/core';
import { Cabling } from './cabling';
import { ChartDesk } from './chart-desk';
import { ControllerChoice } from './controller-choice';
import { MatrixPicking } from './matrix-picking';

/** What one stands on: a control, a jack or a section, one at a time. What was typed for the last one is taken down. */
@Injectable()
export class Choosing {
  private readonly desk = inject(ChartDesk);
  private readonly matrix = inject(MatrixPicking);
  private readonly controllers = inject(ControllerChoice);
  private readonly cabling = inject(Cabling);

  control(id: string): void {
    if (this.matrix.picking()) this.matrix.pick(id);
    if (this.desk.chosen() !== id) this.desk.commit();
    this.controllers.chosen.set(null);
    this.stand(id, null, null);
  }

  jack(id: string): void {
    this.desk.commit();
    this.stand(null, null, id);
  }

  section(id: string): void {
    this.desk.commit();
    this.stand(null, id, null);
  }

  private stand(control: string | null, section: string | null, jack: string | null): void {
    this.desk.chosen.set(control);
    this.desk.chosenSection.set(section);
    this.cabling.jack.set(jack);
  }
}
