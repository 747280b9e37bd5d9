import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { type Answer, answerOf, problemOf } from '../../testing/answers';
import { API } from '../api/client';
import { EnterPage } from './enter-page';

const asked: unknown[] = [];
let reply: () => Answer;
const gone: string[] = [];
let fixture: ComponentFixture<EnterPage>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;

async function open(back?: string): Promise<void> {
  fixture = TestBed.createComponent(EnterPage);
  if (back !== undefined) fixture.componentRef.setInput('back', back);
  await fixture.whenStable();
}
async function comeIn(passcode: string, name?: string): Promise<void> {
  const [code, called] = page().querySelectorAll('input');
  code!.value = passcode;
  if (name !== undefined) called!.value = name;
  page()
    .querySelector('form')!
    .dispatchEvent(new Event('submit', { cancelable: true }));
  // The answer is read in steps of their own.
  await new Promise((done) => setTimeout(done));
  await fixture.whenStable();
}

beforeEach(() => {
  asked.length = gone.length = 0;
  reply = () => answerOf({ id: 'd1' }, 201);
  // Where the door is: nobody is sent to it from there.
  history.replaceState({}, '', '/enter');
  Object.assign(globalThis, { matchMedia: () => ({ matches: true }) });
  TestBed.configureTestingModule({
    providers: [
      {
        provide: API,
        useValue: {
          devices: {
            $post: ({ json }: { json: unknown }) => {
              asked.push(json);
              return Promise.resolve(reply());
            },
          },
        },
      },
      {
        provide: Router,
        useValue: { navigateByUrl: (url: string) => Promise.resolve(gone.push(url)) },
      },
    ],
  });
});

describe('the door', () => {
  it('lets a device in by its name, and leads to where it wanted to go', async () => {
    await open('/set/s1/stage');
    expect(page().querySelectorAll('input')[1]!.value).toBe('tablet');
    await comeIn('mooring', '  low keys ');
    expect(asked).toEqual([{ passcode: 'mooring', name: 'low keys' }]);
    expect(gone).toEqual(['/set/s1/stage']);
  });

  it('calls a device without a name by what it is', async () => {
    await open();
    await comeIn('mooring', ' ');
    expect(asked).toEqual([{ passcode: 'mooring', name: 'tablet' }]);
    expect(gone).toEqual(['/']);
  });

  it('leads nowhere outside', async () => {
    for (const outside of ['//elsewhere.example', 'https://elsewhere.example', 'stage']) {
      await open(outside);
      await comeIn('mooring');
    }
    expect(gone).toEqual(['/', '/', '/']);
  });

  it('says why it stays shut, and can be tried again', async () => {
    reply = () => problemOf('That is not the passcode.', 401);
    await open('/library');
    await comeIn('moring');
    expect(page().querySelector('[role="alert"]')!.textContent).toContain('not the passcode');
    expect(gone).toEqual([]);
    expect(page().querySelector('button')!.disabled).toBe(false);
  });
});
