import type { LiveMessage } from './live-message';

/** What waits for the next bar, and which change was made last. */
export class BarChange {
  /** Number of the last change that was made; 0 when none was. */
  made = 0;
  private number = 0;
  private messages: LiveMessage[] = [];

  get waits(): boolean {
    return this.messages.length > 0;
  }

  isMade(change: number): boolean {
    return change <= this.made;
  }

  /** Adds to the change of this number; one of another number is forgotten. */
  add(change: number, messages: readonly LiveMessage[]): void {
    if (change !== this.number) this.messages = [];
    this.number = change;
    this.messages.push(...messages);
  }

  /** What is to be done now; it counts as made. */
  take(): LiveMessage[] {
    const { messages } = this;
    this.messages = [];
    if (messages.length > 0) this.make(this.number);
    return messages;
  }

  make(change: number): void {
    this.made = Math.max(this.made, change);
  }
}
