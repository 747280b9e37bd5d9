import { Directive, ElementRef, inject, output } from '@angular/core';

/** Keys that go through a closed list, each to its next entry. */
const WALKS = /^(Arrow|Page|Home|End)|^.$/;

/**
 * A list of which each choice does something at once, and which then stands at its first entry again. Who goes through it by
 * keys has chosen when Enter is pressed; going on elsewhere chooses nothing.
 */
@Directive({
  selector: 'select[hurPickOnce]',
  host: {
    title: 'By keys: choose, then Enter',
    '(pointerdown)': 'walking = false',
    '(keydown)': 'key($event)',
    '(change)': 'walking || pick()',
    '(blur)': 'reset()',
  },
})
export class PickOnce {
  /** What was chosen. */
  readonly hurPickOnce = output<string>();
  private readonly list = inject<ElementRef<HTMLSelectElement>>(ElementRef).nativeElement;
  protected walking = false;

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Enter' && this.walking) {
      event.preventDefault();
      this.pick();
    } else if (WALKS.test(event.key) && event.key !== ' ') this.walking = true;
  }

  protected pick(): void {
    const { value } = this.list;
    this.reset();
    if (value !== '') this.hurPickOnce.emit(value);
  }

  protected reset(): void {
    this.walking = false;
    this.list.selectedIndex = 0;
  }
}
