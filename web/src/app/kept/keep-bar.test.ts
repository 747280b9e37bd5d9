import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { jest } from '@jest/globals';
import { Drafts } from '../document/drafts';
import { OpenDocuments } from '../document/open-documents';
import { StorageService } from '../document/storage.service';
import { KeepBar } from './keep-bar';

const says = 'The disk that holds the library is full.';

let replacedAt: string | null = null;
async function show(storage: string) {
  const answer = {
    ok: true,
    status: 200,
    json: async () => ({ storage: { says: storage }, replacedAt }),
  };
  globalThis.fetch = jest.fn(async () => answer as Response) as typeof fetch;
  TestBed.configureTestingModule({ providers: [provideRouter([])] });
  const fixture = TestBed.createComponent(KeepBar);
  fixture.detectChanges();
  await TestBed.inject(StorageService).look();
  fixture.detectChanges();
  return { fixture, page: fixture.nativeElement as HTMLElement };
}

describe('the bar over every page', () => {
  afterEach(() => {
    TestBed.resetTestingModule();
    localStorage.clear();
    jest.restoreAllMocks();
  });

  it('is not there while all is well', async () => {
    const { page } = await show('');
    expect(page.textContent?.trim()).toBe('');
  });

  it('says what the server says of its disk', async () => {
    const { page } = await show(says);
    expect(page.querySelector('[role="alert"]')?.textContent).toContain(says);
  });

  it('says when the library was replaced', async () => {
    const { fixture, page } = await show('');
    replacedAt = '2031-05-01T20:00:00.000Z';
    await TestBed.inject(StorageService).look();
    fixture.detectChanges();
    replacedAt = null;
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('The library was replaced');
    expect(page.querySelector('button')?.textContent).toContain('Reload');
  });

  it('lists what waits and is not open here, each with its way', async () => {
    const drafts = TestBed.inject(Drafts);
    drafts.keep('patch', 'p1', { version: 1, document: { name: 'Winch bass' } });
    drafts.keep('patch', 'p2', { version: 1, document: { name: 'Open one' } });
    TestBed.resetTestingModule();
    const { fixture, page } = await show('');
    const close = TestBed.inject(OpenDocuments).add({
      kind: 'patch',
      id: () => 'p2',
      present: () => ({ name: 'Open one' }),
      dirty: () => true,
    });
    fixture.detectChanges();
    const button = page.querySelector('button')!;
    expect(button.textContent?.trim()).toBe('One document waits to be saved');
    button.click();
    fixture.detectChanges();
    const link = page.querySelector('a')!;
    expect([link.textContent, link.getAttribute('href')]).toEqual([
      'Winch bass',
      '/patch/p1/chart',
    ]);
    close();
    fixture.detectChanges();
    expect(page.textContent).toContain('2 documents wait');
  });

  it('says that this browser keeps nothing, and asks before something is lost', async () => {
    const { fixture, page } = await show('');
    jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    const drafts = TestBed.inject(Drafts);
    expect(drafts.keep('patch', 'p1', { version: 1, document: {} })).toBe(false);
    fixture.detectChanges();
    expect(page.textContent).toContain('This browser keeps nothing on this device');
    const leave = () => {
      const event = new Event('beforeunload', { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect(leave()).toBe(false);
    TestBed.inject(OpenDocuments).add({
      kind: 'patch',
      id: () => 'p1',
      present: () => ({ name: 'Here' }),
      dirty: () => true,
    });
    expect(leave()).toBe(true);
    // The server has it: nothing can be lost any more.
    drafts.drop('patch', 'p1');
    fixture.detectChanges();
    expect(leave()).toBe(false);
    expect(page.textContent).not.toContain('keeps nothing');
  });
});
