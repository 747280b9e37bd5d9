import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { Router } from '@angular/router';
import { answer, API } from '../api/client';

/** A name to begin with: what somebody would call it who lists the devices of a band. */
const guess = (): string => (matchMedia('(pointer: coarse)').matches ? 'tablet' : 'computer');

/** The door of a server that asks for a passcode: once on each device. */
@Component({
  selector: 'hur-enter-page',
  template: `
    <main>
      <h1>This server asks for its passcode</h1>
      <p class="quiet">
        It's in the terminal of the computer that runs Hurrel. You enter it once on each device.
      </p>
      <form (submit)="$event.preventDefault(); enter(code.value, name.value)">
        <label
          >Passcode
          <input
            #code
            class="form-control"
            type="password"
            autocomplete="off"
            maxlength="200"
            required
        /></label>
        <label
          >What this device is called
          <input #name class="form-control" maxlength="60" [value]="first" />
        </label>
        <button type="submit" class="btn btn-main" [disabled]="busy()">Connect</button>
        @if (error(); as text) {
          <p role="alert">{{ text }}</p>
        }
      </form>
    </main>
  `,
  styleUrl: './devices.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EnterPage {
  /** Where somebody wanted to go. */
  readonly back = input<string>();
  private readonly api = inject(API);
  private readonly router = inject(Router);
  protected readonly first = guess();
  protected readonly busy = signal(false);
  protected readonly error = signal('');

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    // There is nothing else to do on this page.
    afterNextRender(() => host.nativeElement.querySelector('input')?.focus());
  }

  protected async enter(passcode: string, name: string): Promise<void> {
    this.busy.set(true);
    try {
      const json = { passcode, name: name.trim() || this.first };
      await answer(this.api.devices.$post({ json }));
      const back = this.back() ?? '/';
      // Only a page of this application.
      await this.router.navigateByUrl(/^\/(?!\/)/.test(back) ? back : '/');
    } catch (error) {
      this.error.set((error as Error).message);
    } finally {
      this.busy.set(false);
    }
  }
}
