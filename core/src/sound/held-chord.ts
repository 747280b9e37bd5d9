import { Act } from './key-feed';

/** Keys that hands hold, in the order of pressing. */
export class HeldChord {
  private held: number[] = [];

  get count(): number {
    return this.held.length;
  }

  /** Null while no key is held. */
  notes(): readonly number[] | null {
    return this.held.length > 0 ? this.held : null;
  }

  /** @returns whether it was a key; whatever else hands do changes nothing here */
  hear(act: Act, note: number): boolean {
    if (act !== Act.press && act !== Act.release) return false;
    const others = this.held.filter((n) => n !== note);
    this.held = act === Act.press ? [...others, note] : others;
    return true;
  }

  clear(): void {
    this.held = [];
  }
}
