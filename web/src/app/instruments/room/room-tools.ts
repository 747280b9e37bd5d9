import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  families,
  jackLabel,
  kindsFor,
  type ModuleKind,
  moduleSpec,
  portNames,
  readWire,
} from '@hurrel/core';
import { KINDS, kindText } from './kinds';
import { ModuleEditor } from './module-editor';
import { RoomDesk } from './room-desk';

/** Beside the drawing of a circuit: modules to add, wires in words, and what of it is chosen. */
@Component({
  selector: 'hur-room-tools',
  imports: [ModuleEditor],
  templateUrl: './room-tools.html',
  styleUrl: './room-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoomTools {
  protected readonly desk = inject(RoomDesk);
  /** A wire as it is typed. */
  protected readonly words = signal('');
  protected readonly kind = signal<ModuleKind>('oscillator');
  protected readonly summary = computed(() => moduleSpec(this.kind()).summary);
  /** What can be added, by family. */
  protected readonly offered = computed(() => {
    const instrument = this.desk.instrument();
    const free = new Set(instrument ? kindsFor(instrument, KINDS) : []);
    return Object.entries(families).map(([family, kinds]) => ({
      family,
      kinds: (Object.keys(kinds) as ModuleKind[]).filter((k) => free.has(k)),
    }));
  });
  protected readonly reading = computed(() => {
    const [instrument, words] = [this.desk.instrument(), this.words()];
    return instrument && words.trim() !== '' ? readWire(words, instrument) : null;
  });
  /** What can be written next, for the field to offer. */
  protected readonly offers = computed(() => {
    const [instrument, words] = [this.desk.instrument(), this.words()];
    if (!instrument) return [];
    const begun = /^(.*[>→]\s*)/.exec(words)?.[1];
    return begun === undefined
      ? portNames(instrument, 'outputs').map((p) => `${p.text} > `)
      : portNames(instrument, 'inputs').map((p) => begun + p.text);
  });
  protected readonly jacks = computed(() => {
    const instrument = this.desk.instrument();
    return (instrument?.jacks ?? []).map((j) => ({ id: j.id, name: jackLabel(instrument!, j.id) }));
  });
  protected readonly wireText = computed(() => {
    const wire = this.desk.wire();
    return wire ? `${this.portText(wire.from)} → ${this.portText(wire.to)}` : '';
  });

  protected readonly kindText = kindText;

  protected take(field: HTMLInputElement): void {
    const reading = this.reading();
    if (!reading?.ok) return;
    this.desk.join(reading.ends.from, reading.ends.to);
    this.desk.chosen.set({ wire: reading.ends });
    this.words.set('');
    // What was typed a moment ago may not have been drawn yet: then nothing would be drawn anew.
    field.value = '';
  }

  private portText(port: string): string {
    const [id = '', name = ''] = port.split('.');
    const module = this.desk.room().modules.find((m) => m.id === id);
    return `${name} of ${module?.name ?? id}`;
  }
}
