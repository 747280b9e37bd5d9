import { ChangeDetectionStrategy, Component } from '@angular/core';

/** How a panel is written in words: for a blank sheet, and to look up. */
@Component({
  selector: 'hur-outline-help',
  template: `
    <h2>Type what is printed on the panel</h2>
    <p>Section by section, a line each; the panel draws itself while you type.</p>
    <dl>
      @for (one of lines; track one.line) {
        <dt class="mono">{{ one.line }}</dt>
        <dd>{{ one.says }}</dd>
      }
    </dl>
    <p class="quiet">
      What is not said is guessed from the words and told behind the line: a name with attack in it
      is a knob, three words with strokes between them are a switch.
    </p>
  `,
  styles: `
    :host {
      display: block;
      max-width: 720px;
      padding: 6px 2px;
    }
    h2 {
      font-size: 18px;
    }
    p {
      margin: 4px 0 10px;
    }
    dl {
      display: grid;
      grid-template-columns: minmax(0, 300px) minmax(0, 1fr);
      gap: 5px 16px;
      margin: 0 0 10px;
    }
    dt {
      font-weight: 600;
    }
    dd {
      margin: 0;
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutlineHelp {
  protected readonly lines = [
    { line: 'Filter:', says: 'a section: its name, and a colon' },
    { line: 'cutoff 0..10', says: 'a knob with the numbers at both its ends' },
    { line: 'env amount -5..5 = 0', says: 'where it rests' },
    { line: 'wave saw/pulse/sine', says: 'a switch with its positions' },
    { line: 'rate 0;1;2;5;10', says: 'numbers that stand at even steps and are not even' },
    { line: 'time 0..2 s slider', says: 'its unit, and what it is' },
    { line: 'fine', says: 'a knob without numbers' },
    { line: 'cutoff 0..10 cc74', says: 'the controller number it sends over MIDI' },
    { line: '| attack 0..10', says: 'a slider' },
    { line: '4 x 0..10 slider: a, b, c, d', says: 'a row of like ones' },
    { line: '+ resonance 0..10 via shift', says: 'on the same knob as the one above, and how' },
    { line: 'Oscillator 2: as Oscillator 1', says: 'the same once more' },
    { line: 'VCO: module', says: 'a kind of module of a cabinet: what is on one, below it' },
    { line: '= VCO, VCO, VCF', says: 'a row of the cabinet, from the left; one line a row' },
    { line: '< cutoff in', says: 'a jack that a cable goes into' },
    { line: '> line out, audio', says: 'a jack that something comes out of, and what' },
  ];
}
