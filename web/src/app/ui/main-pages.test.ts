import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { MainPages } from './main-pages';

let fixture: ComponentFixture<MainPages>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;

beforeEach(async () => {
  localStorage.clear();
  TestBed.configureTestingModule({ providers: [provideRouter([])] });
  fixture = TestBed.createComponent(MainPages);
  fixture.componentRef.setInput('here', '/sessions');
  await fixture.whenStable();
});

describe('the bar above the places', () => {
  it('leads to each place and says in which one is', () => {
    const links = [...page().querySelectorAll<HTMLAnchorElement>('nav a')];
    expect(links.map((a) => [a.textContent, a.getAttribute('aria-current')])).toEqual([
      ['Patches', null],
      ['Instruments', null],
      ['Recordings', 'true'],
      ['Sets', null],
      ['Files', null],
    ]);
    expect(links[1]!.getAttribute('href')).toBe('/instruments');
  });

  it('changes the light, says to which, and remembers it', async () => {
    const button = page().querySelector<HTMLButtonElement>('hur-light-button button')!;
    expect(button.getAttribute('aria-label')).toBe('Stage light');
    button.click();
    await fixture.whenStable();
    expect(button.getAttribute('aria-label')).toBe('Desk light');
    expect(document.documentElement.dataset['light']).toBe('stage');
    expect(localStorage.getItem('hurrel.light')).toBe('stage');
    button.click();
    await fixture.whenStable();
    expect(document.documentElement.dataset['light']).toBe('desk');
  });
});
