import { ChangeDetectionStrategy, Component } from '@angular/core';

@Component({ selector: 'hur-rebuild-page', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
export class RebuildPage {}
