import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Welcome } from './welcome';

async function visit(): Promise<HTMLElement> {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideRouter([])] });
  const fixture = TestBed.createComponent(Welcome);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

describe('what Hurrel is for', () => {
  beforeEach(() => localStorage.clear());

  it('is said on a first visit, with where to begin, until it is put away', async () => {
    const page = await visit();
    expect(page.textContent).toContain('hardware synthesizer');
    expect([...page.querySelectorAll('a')].map((a) => a.getAttribute('href'))).toEqual([
      '/instruments',
      '/sets',
    ]);
    expect((await visit()).querySelector('section')).not.toBeNull();
    const again = await visit();
    again.querySelector('button')!.click();
    expect((await visit()).querySelector('section')).toBeNull();
  });
});
