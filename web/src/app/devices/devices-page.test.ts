import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { type Answer, answerOf, problemOf } from '../../testing/answers';
import { API } from '../api/client';
import { ToastService } from '../ui/toasts';
import { DevicesPage } from './devices-page';

const said: string[] = [];
const removed: string[] = [];
let fixture: ComponentFixture<DevicesPage>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ');

const device = (id: string, here = false) => ({
  id,
  name: `${id} of the band`,
  createdAt: '2026-11-28T18:00:00.000Z',
  seenAt: '2026-11-28T21:30:00.000Z',
  here,
});

async function settle(): Promise<void> {
  // Answers are read in steps of their own.
  for (let i = 0; i < 3; i++) await new Promise((done) => setTimeout(done));
  await fixture.whenStable();
}
async function open(
  network: () => Answer,
  devices = [device('tablet', true), device('phone')],
  shut: () => Answer = () => answerOf({}),
): Promise<void> {
  said.length = removed.length = 0;
  const api = {
    network: { $get: () => Promise.resolve(network()) },
    devices: {
      $get: () => Promise.resolve(answerOf({ items: devices })),
      ':id': {
        $delete: ({ param }: { param: { id: string } }) => {
          removed.push(param.id);
          return Promise.resolve(shut());
        },
      },
    },
  };
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: API, useValue: api },
      { provide: ToastService, useValue: { show: (t: string) => said.push(t) } },
    ],
  });
  fixture = TestBed.createComponent(DevicesPage);
  await settle();
}
const alone = (): Answer => answerOf({ addresses: [], secure: false, authority: false });
const onStage = (): Answer =>
  answerOf({
    addresses: [{ url: 'https://192.168.7.4:4443', picture: '<svg xmlns="x"><path d="#"/></svg>' }],
    secure: true,
    authority: true,
  });

describe('the devices of a band', () => {
  it('are told how this server gets reached where it answers nobody else', async () => {
    await open(alone, []);
    expect(text()).toContain('npm run stage');
    expect(text()).toContain('None: this server asks for no passcode');
    expect(text()).not.toContain('How they come to trust it');
  });

  it('find it by its address, as words and as a picture', async () => {
    await open(onStage);
    const picture = page().querySelector<HTMLImageElement>('figure img')!;
    expect(picture.alt).toBe('Picture of https://192.168.7.4:4443');
    expect(decodeURIComponent(picture.src)).toContain('<path d="#"/>');
    expect(page().querySelectorAll('details')).toHaveLength(3);
    for (const kind of page().querySelectorAll('details'))
      expect(kind.querySelectorAll('li')).toHaveLength(4);
  });

  it('are shut out one by one', async () => {
    await open(onStage);
    expect(text()).toContain('this one');
    page().querySelector<HTMLButtonElement>('[aria-label="Shut phone of the band out"]')!.click();
    await settle();
    expect(removed).toEqual(['phone']);
    expect(page().querySelectorAll('li strong')).toHaveLength(1);
    expect(said).toEqual(['"phone of the band" is shut out: it needs the passcode again.']);
  });

  it('stay where shutting one out failed', async () => {
    await open(onStage, [device('phone')], () => problemOf('The disk is full.'));
    page().querySelector<HTMLButtonElement>('[aria-label^="Shut"]')!.click();
    await settle();
    expect(said).toEqual(['The disk is full.']);
    expect(page().querySelectorAll('li strong')).toHaveLength(1);
  });

  it('say that the server does not answer', async () => {
    await open(() => problemOf('The server is busy.'));
    expect(page().querySelector('[role="alert"]')!.textContent).toBe('The server is busy.');
  });
});
