import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { formatDuration, isWork, passLabel, recordingOrder, sayStep } from '@hurrel/core';
import { SessionDesk } from './session-desk';

/** Steps that are written out of one movement from pass to pass. */
const MOST_LINES = 60;

/** What is still to be recorded, in the order that costs the fewest movements. */
@Component({
  selector: 'hur-order-panel',
  templateUrl: './order-panel.html',
  styleUrl: './order-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderPanel {
  protected readonly desk = inject(SessionDesk);
  protected readonly order = computed(() => {
    const session = this.desk.session();
    if (!session) return [];
    const subjects = new Map(this.desk.subjects().map((s) => [s.pass.id, s]));
    return recordingOrder(session, [...subjects.values()]).flatMap((o) => {
      const own = subjects.get(o.pass);
      if (!own) return [];
      const from = subjects.get(o.from ?? '');
      const work = o.plan.steps.filter(isWork);
      return [
        {
          ...o,
          name: passLabel(own, session),
          instrument: `${own.instrument.maker} ${own.instrument.name}`,
          fromName: from ? passLabel(from, session) : 'the start',
          time: formatDuration(o.seconds),
          lines: work.slice(0, MOST_LINES).map((step) => sayStep(own.instrument, step)),
          more: Math.max(0, work.length - MOST_LINES),
        },
      ];
    });
  });
  protected readonly total = computed(() =>
    formatDuration(this.order().reduce((sum, o) => sum + o.seconds, 0)),
  );
}
