import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  Act,
  chordNotes,
  type ChordType,
  isFlat,
  pitchClassName,
  readMidi,
  writeMidi,
} from '@hurrel/core';
import { tellShortcuts } from '../keys/shortcuts';
import { LiveService } from './live.service';

/** Keys of the computer's keyboard as semitones: the home row is white, the row above it black. */
export const KEYS: Record<string, number> = {
  KeyA: 0,
  KeyW: 1,
  KeyS: 2,
  KeyE: 3,
  KeyD: 4,
  KeyF: 5,
  KeyT: 6,
  KeyG: 7,
  KeyY: 8,
  KeyH: 9,
  KeyU: 10,
  KeyJ: 11,
  KeyK: 12,
};

export interface ChordPad {
  /** Semitones of its root above the lowest key. */
  root: number;
  type: ChordType;
}

/** Chords to play a sound over: those of a minor key, and two that ask more of a sound. */
export const PADS: readonly ChordPad[] = [
  { root: 0, type: 'minor' },
  { root: 8, type: 'major' },
  { root: 3, type: 'major' },
  { root: 10, type: 'major' },
  { root: 5, type: 'minor' },
  { root: 7, type: 'minor' },
  { root: 0, type: 'sus4' },
  { root: 0, type: 'minor7' },
];

/**
 * What is played, wherever it comes from: the computer's keys, keys on the screen, a MIDI keyboard or its simulation.
 * Knows octave, velocity, latch and pedal; tells live sound.
 */
@Injectable({ providedIn: 'root' })
export class KeysService implements OnDestroy {
  private readonly live = inject(LiveService);

  /** Letters are notes, not readings. */
  readonly on = signal(false);
  /** A reading is being written, or a jump: until it is taken or given up letters and figures belong to it. */
  readonly writing = signal(false);
  readonly octave = signal(48);
  readonly velocity = signal(100);
  /** A key sounds until it is pressed again. */
  readonly latch = signal(false);
  readonly pedal = signal(false);
  readonly last = signal<number | null>(null);
  readonly wheel = signal(0);
  readonly bend = signal(0);
  readonly pressure = signal(0);

  /** Notes that each computer key or pad holds down. */
  private readonly down = new Map<string, number[]>();

  constructor() {
    tellShortcuts('Playing on this keyboard', [
      { keys: 'F10', says: 'All off: silence at once, echoes too' },
      { keys: 'F2', says: 'Letters are keys of a piano, or letters again' },
      { keys: ['KeyZ', 'KeyX'], says: 'An octave down, up' },
      { keys: ['1', '8'], says: 'Chords' },
      { keys: 'Enter', says: 'Begins a reading; until Enter, Tab or Esc all that is typed is its' },
    ]);
    // Capturing: while it is on, letters are notes wherever the focus is.
    document.addEventListener('keydown', this.keyDown, { capture: true });
    document.addEventListener('keyup', this.keyUp, { capture: true });
    addEventListener('blur', this.letGo);
  }

  ngOnDestroy(): void {
    document.removeEventListener('keydown', this.keyDown, { capture: true });
    document.removeEventListener('keyup', this.keyUp, { capture: true });
    removeEventListener('blur', this.letGo);
  }

  press(id: string, notes: readonly number[], velocity = this.velocity()): void {
    if (this.down.has(id)) {
      if (!this.latch()) return;
      this.lift(id);
      return;
    }
    const heard = notes.filter((n) => n >= 0 && n <= 127);
    // With latch a new chord takes the place of the last.
    if (this.latch() && id.startsWith('pad')) {
      for (const other of [...this.down.keys()]) if (other.startsWith('pad')) this.lift(other);
    }
    this.down.set(id, heard);
    for (const note of heard) this.live.press(note, velocity);
    this.last.set(heard[0] ?? null);
  }

  release(id: string): void {
    if (!this.latch()) this.lift(id);
  }

  pressPad(index: number): void {
    const pad = PADS[index];
    if (!pad) return;
    this.press(`pad${index}`, this.padNotes(pad));
  }

  releasePad(index: number): void {
    this.release(`pad${index}`);
  }

  padNotes(pad: ChordPad): number[] {
    return chordNotes(pad.type).map((s) => this.octave() + pad.root + s);
  }

  padName(pad: ChordPad): string {
    // The pads are chords of a minor key on the lowest key.
    const root = pitchClassName(this.octave() + pad.root, isFlat(this.octave(), true));
    return `${root} ${pad.type}`;
  }

  shift(octaves: number): void {
    this.octave.update((o) => Math.min(96, Math.max(0, o + 12 * octaves)));
  }

  setLatch(latch: boolean): void {
    this.latch.set(latch);
    if (!latch) for (const id of [...this.down.keys()]) this.lift(id);
  }

  /** The simulated pedal: sends what a real one would. */
  setPedal(down: boolean): void {
    this.midi(writeMidi(Act.pedal, 0, down ? 1 : 0));
  }

  /** The simulated wheel and pressure, 0..1, and bender, -1..1: they send what real ones would. */
  move(act: Act.wheel | Act.bend | Act.pressure, value: number): void {
    this.midi(writeMidi(act, 0, value));
  }

  /** A message from a MIDI keyboard, real or simulated; gives back what it meant. */
  midi(bytes: ArrayLike<number>): ReturnType<typeof readMidi> {
    const event = readMidi(bytes);
    if (event?.type === 'stop') this.silence();
    if (event?.type !== 'act') return event;
    const { act, note, value } = event;
    if (act === Act.press) this.press(`midi${note}`, [note], value);
    else if (act === Act.release) this.release(`midi${note}`);
    else {
      if (act === Act.pedal) this.pedal.set(value > 0);
      else if (act === Act.wheel) this.wheel.set(value);
      else if (act === Act.bend) this.bend.set(value);
      else this.pressure.set(value);
      this.live.act(act, 0, value);
    }
    return event;
  }

  /** Everything off, at once: what rings, echoes or runs by itself too. */
  silence(): void {
    this.down.clear();
    this.pedal.set(false);
    this.live.stop(true);
  }

  private lift(id: string): void {
    const notes = this.down.get(id);
    if (!notes) return;
    this.down.delete(id);
    const still = new Set([...this.down.values()].flat());
    for (const note of notes) if (!still.has(note)) this.live.release(note);
  }

  private readonly letGo = (): void => {
    if (this.latch()) return;
    for (const id of [...this.down.keys()]) this.lift(id);
  };

  private readonly keyDown = (event: KeyboardEvent): void => {
    if (event.key === 'F2') {
      event.preventDefault();
      this.on.update((on) => !on);
      return;
    }
    if (event.key === 'F10') {
      event.preventDefault();
      event.stopPropagation();
      return this.silence();
    }
    if (!this.on() || this.writing() || event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target;
    if (
      target instanceof HTMLElement &&
      target.matches('input:not([type=range]), textarea, select')
    )
      return;
    if (event.code === 'Escape') return this.on.set(false);
    const pad = /^Digit([1-8])$/.exec(event.code)?.[1];
    const semitone = KEYS[event.code];
    if (event.code === 'KeyZ' || event.code === 'KeyX') this.shift(event.code === 'KeyX' ? 1 : -1);
    else if (pad !== undefined) {
      if (!event.repeat) this.pressPad(Number(pad) - 1);
    } else if (semitone === undefined) return;
    else if (!event.repeat) this.press(event.code, [this.octave() + semitone]);
    event.preventDefault();
    event.stopPropagation();
  };

  private readonly keyUp = (event: KeyboardEvent): void => {
    const pad = /^Digit([1-8])$/.exec(event.code)?.[1];
    if (pad !== undefined) this.releasePad(Number(pad) - 1);
    else this.release(event.code);
  };
}
