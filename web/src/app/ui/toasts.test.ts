import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { Toasts, ToastService } from './toasts';

describe('messages', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('go by themselves, later when there is something to decide', () => {
    const service = TestBed.inject(ToastService);
    const fixture = TestBed.createComponent(Toasts);
    service.show('Saved as WAV.');
    service.show('Removed.', { label: 'Undo', run: () => undefined });
    fixture.detectChanges();
    jest.advanceTimersByTime(6000);
    expect(service.toasts().map((t) => t.text)).toEqual(['Removed.']);
    jest.advanceTimersByTime(9000);
    expect(service.toasts()).toEqual([]);
  });

  it('are three at the most, the newest', () => {
    const service = TestBed.inject(ToastService);
    for (const text of ['a', 'b', 'c', 'd']) service.show(text);
    expect(service.toasts().map((t) => t.text)).toEqual(['b', 'c', 'd']);
  });

  it('do what they offer once, and are gone', () => {
    const service = TestBed.inject(ToastService);
    const run = jest.fn();
    service.show('Removed.', { label: 'Undo', run });
    const fixture = TestBed.createComponent(Toasts);
    fixture.detectChanges();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('[role="status"]')!.textContent).toContain('Removed.');
    page.querySelector<HTMLButtonElement>('.btn-main')!.click();
    fixture.detectChanges();
    expect(run).toHaveBeenCalledTimes(1);
    expect(page.querySelector('.toast-line')).toBeNull();
  });
});
