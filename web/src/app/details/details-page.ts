import { ChangeDetectionStrategy, Component } from '@angular/core';

@Component({ selector: 'hur-details-page', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
export class DetailsPage {}
