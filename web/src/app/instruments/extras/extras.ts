import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatrixForm } from './matrix-form';
import { MemoryForm } from './memory-form';
import { RevisionsForm } from './revisions-form';
import { SequencersForm } from './sequencers-form';

/** What an instrument has besides its panel and circuit: sequencers, memory, matrix, revisions. */
@Component({
  selector: 'hur-extras',
  imports: [MatrixForm, MemoryForm, RevisionsForm, SequencersForm],
  template: `
    <hur-sequencers-form />
    <hur-memory-form />
    <hur-matrix-form />
    <hur-revisions-form />
  `,
  styles: `
    :host {
      display: grid;
      gap: 22px;
      align-content: start;
      min-height: 0;
      overflow-y: auto;
      padding: 12px 14px;
      border: 1px solid var(--rule);
      background: var(--paper);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Extras {}
