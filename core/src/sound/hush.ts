import { BLOCK } from './kernel';

/** Seconds in which everything fades to nought, and in which it comes back. */
const FADE_SECONDS = 0.04;
const RISE_SECONDS = 0.004;

/** Fades all that is heard to nought and keeps it there until it is woken. */
export class Hush {
  private gain = 1;
  private way: 'open' | 'closing' | 'mute' | 'opening' = 'open';
  private readonly fall: number;
  private readonly rise: number;

  constructor(sampleRate: number) {
    this.fall = 1 / (FADE_SECONDS * sampleRate);
    this.rise = 1 / (RISE_SECONDS * sampleRate);
  }

  get isMute(): boolean {
    return this.way === 'mute';
  }

  begin(): void {
    if (this.way !== 'mute') this.way = 'closing';
  }

  /** @returns true when it was on its way to nought: what rang has to be forgotten before anything is heard */
  wake(): boolean {
    const cut = this.way === 'closing';
    if (cut) this.gain = 0;
    if (this.way !== 'open') this.way = 'opening';
    return cut;
  }

  /** Fades a block. @returns true once nothing is heard any more */
  fade(left: Float32Array, right: Float32Array, from: number): boolean {
    if (this.way === 'open') return false;
    const step = this.way === 'closing' ? -this.fall : this.rise;
    for (let i = from; i < from + BLOCK; i++) {
      this.gain = Math.min(1, Math.max(0, this.gain + step));
      left[i] = left[i]! * this.gain;
      right[i] = right[i]! * this.gain;
    }
    if (this.way === 'opening' && this.gain === 1) this.way = 'open';
    if (this.way !== 'closing' || this.gain > 0) return false;
    this.way = 'mute';
    return true;
  }
}
