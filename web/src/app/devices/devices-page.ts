import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { DomSanitizer, type SafeResourceUrl } from '@angular/platform-browser';
import { format } from 'date-fns';
import { answer, API } from '../api/client';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';

interface Device {
  id: string;
  name: string;
  createdAt: string;
  seenAt: string;
  here: boolean;
}
interface Network {
  addresses: { url: string; picture: string }[];
  secure: boolean;
  authority: boolean;
}

/** How each kind of device is told to trust this server. */
const TRUST = [
  {
    device: 'A tablet or phone whose settings have profiles',
    steps: [
      'Open the address above in its browser and load the certificate.',
      'In its settings install the profile that was loaded.',
      'In its settings, under what the device is and its trust in certificates, switch full trust on.',
      'Open Hurrel again and put it on the home screen.',
    ],
  },
  {
    device: 'A tablet or phone whose settings install certificates',
    steps: [
      'Open the address above in its browser and load the certificate.',
      'In its settings look for “install a certificate”, and choose the kind for authorities.',
      'Choose the file that was loaded, and agree.',
      'Open Hurrel again and take “install” from the browser’s menu.',
    ],
  },
  {
    device: 'A computer',
    steps: [
      'Load the certificate.',
      'Open it, and let the system add it to the authorities that it trusts.',
      'Where the browser keeps a list of its own, import it there.',
      'Open Hurrel again and take “install” from the address line.',
    ],
  },
] as const;

/** Devices of the band: where they find this server, how they come to trust it, and which are let in. */
@Component({
  selector: 'hur-devices-page',
  imports: [MainPages],
  template: `
    <hur-main-pages here="/sets" />
    <main>
      <h1>Devices of the band</h1>
      @if (error(); as text) {
        <p role="alert">{{ text }}</p>
      }
      @if (network(); as net) {
        <section>
          <h2>Where they find this server</h2>
          @for (one of addresses(); track one.url) {
            <figure>
              <img [src]="one.picture" width="180" height="180" [alt]="'Picture of ' + one.url" />
              <figcaption class="mono">{{ one.url }}</figcaption>
            </figure>
          } @empty {
            <p>
              Only this machine reaches it. Stop it and run <code>npm run stage</code>: then it
              answers on the local network, over HTTPS, and asks for a passcode.
            </p>
          }
        </section>
        @if (net.authority) {
          <section>
            <h2>How they come to trust it</h2>
            <p>
              A browser keeps an application for when there is no network only from a server that it
              trusts. Without it an open page goes on with no network, but a reload would not.
              <a class="btn" href="/api/v1/authority.pem" download="hurrel.pem"
                >Load the certificate</a
              >
            </p>
            <div class="kinds">
              @for (kind of trust; track kind.device) {
                <details>
                  <summary>{{ kind.device }}</summary>
                  <ol>
                    @for (step of kind.steps; track step) {
                      <li>{{ step }}</li>
                    }
                  </ol>
                </details>
              }
            </div>
          </section>
        }
      }
      <section>
        <h2>Which are let in</h2>
        <ul>
          @for (device of devices(); track device.id) {
            <li>
              <strong>{{ device.name }}</strong>
              <span class="quiet"
                >{{ device.here ? 'this one · ' : '' }}since {{ time(device.createdAt) }}, last seen
                {{ time(device.seenAt) }}</span
              >
              <button
                type="button"
                class="btn"
                [attr.aria-label]="'Shut ' + device.name + ' out'"
                (click)="withdraw(device)"
              >
                Revoke access
              </button>
            </li>
          } @empty {
            <li class="quiet">
              None: this server asks for no passcode, or nobody has come in yet.
            </li>
          }
        </ul>
      </section>
    </main>
  `,
  styleUrl: './devices.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DevicesPage {
  private readonly api = inject(API);
  private readonly toasts = inject(ToastService);
  private readonly sanitizer = inject(DomSanitizer);
  protected readonly trust = TRUST;
  protected readonly network = signal<Network | null>(null);
  protected readonly addresses = signal<{ url: string; picture: SafeResourceUrl }[]>([]);
  protected readonly devices = signal<readonly Device[]>([]);
  protected readonly error = signal('');

  constructor() {
    void this.read();
  }

  protected time(at: string): string {
    return format(new Date(at), 'd MMMM, H:mm');
  }

  protected async withdraw(device: Device): Promise<void> {
    try {
      await answer(this.api.devices[':id'].$delete({ param: { id: device.id } }));
      this.devices.update((all) => all.filter((d) => d !== device));
      this.toasts.show(`"${device.name}" is shut out: it needs the passcode again.`);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async read(): Promise<void> {
    try {
      const network = await answer<Network>(this.api.network.$get());
      this.network.set(network);
      this.addresses.set(
        network.addresses.map(({ url, picture }) => ({
          url,
          // Drawn by this server itself, as a picture: nothing in it runs.
          picture: this.sanitizer.bypassSecurityTrustUrl(
            `data:image/svg+xml;utf8,${encodeURIComponent(picture)}`,
          ) as SafeResourceUrl,
        })),
      );
      this.devices.set((await answer<{ items: Device[] }>(this.api.devices.$get())).items);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
