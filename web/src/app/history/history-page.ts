import { ChangeDetectionStrategy, Component } from '@angular/core';

@Component({ selector: 'hur-history-page', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
export class HistoryPage {}
