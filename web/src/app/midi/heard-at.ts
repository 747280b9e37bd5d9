import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  controlHeard,
  controlLabel,
  formatValue,
  type Instrument,
  placeOfProgram,
  slotName,
} from '@hurrel/core';
import { askPlaces } from './ask-places';
import { MidiInService } from './midi-in.service';
import { type Asked, PanelInputs, type Place, placeAsked } from './panel-inputs';

/** Lets MIDI in, and asks whether it is this panel that is heard. */
@Component({
  selector: 'hur-heard-at',
  template: `
    @if (!midi.supported) {
      @if (tells()) {
        <p>This browser doesn't support MIDI.</p>
      }
    } @else if (midi.inputs().length === 0) {
      <button type="button" class="btn" (click)="midi.connect()">
        {{ knobs() ? 'Hear its knobs over MIDI' : 'Hear it over MIDI' }}
      </button>
    } @else if (asks(); as asks) {
      <div role="status" class="asks">
        <p>
          {{ asks.name }} <strong class="mono">{{ asks.reads }}</strong> {{ asks.was }} at
          <b>{{ asks.at }}</b>. Is it this panel?
        </p>
        <button type="button" class="btn" (click)="inputs.say(panel(), asks.place)">
          It is this panel
        </button>
        <button type="button" class="btn" (click)="inputs.deny(panel(), asks.place)">
          It is another
        </button>
      </div>
    } @else if (tells()) {
      <p>
        @if (at(); as at) {
          Heard at {{ at }}
          <button type="button" class="btn" (click)="inputs.forget(panel())">Elsewhere</button>
        } @else {
          {{ knobs() ? 'Turn one of its knobs' : 'Choose a place of its memory' }}: it is asked once
          whether it is this panel that is heard.
        }
      </p>
    }
    @if (midi.fault()) {
      <p class="bad" role="alert">{{ midi.fault() }}</p>
    }
  `,
  styles: `
    p {
      margin: 0 0 4px;
      font-size: var(--heard-at, 13.5px);
    }
    p .btn {
      padding: 1px 8px;
      font-size: inherit;
    }
    .asks {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .asks p {
      flex-basis: 100%;
    }
    .asks .btn {
      min-height: 44px;
      font-size: var(--heard-at, 13.5px);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HeardAt {
  readonly panel = input.required<string>();
  readonly instrument = input.required<Instrument>();
  /** Says where the panel is heard also when nothing is asked. */
  readonly tells = input(false);

  protected readonly midi = inject(MidiInService);
  protected readonly inputs = inject(PanelInputs);
  protected readonly at = computed(() => {
    const place = this.inputs.of(this.panel());
    return place && nameOf(place);
  });
  /** Whether its controls tell where they stand; else only its memory tells which place was chosen. */
  protected readonly knobs = computed(() =>
    this.instrument().controls.some((c) => c.cc !== undefined),
  );
  protected readonly asks = computed(() => {
    const asked = this.inputs.asked();
    const says = asked?.panel === this.panel() && this.saysOf(asked);
    const place = asked && placeAsked(asked);
    return says && place ? { ...says, place, at: nameOf(place) } : null;
  });

  constructor() {
    askPlaces(this.panel, this.instrument);
  }

  /** What was heard, as this panel reads; undefined where it is nothing of its own. */
  private saysOf(asked: Asked): { name: string; reads: string; was: string } | undefined {
    const instrument = this.instrument();
    if ('chosen' in asked) {
      const place = placeOfProgram(instrument.memory, asked.chosen);
      const reads = place && slotName(instrument.memory, place.bank, place.slot);
      return reads ? { name: 'Place', reads, was: 'was chosen' } : undefined;
    }
    const { cc, sent } = asked.moved;
    const heard = controlHeard(instrument.controls, cc, sent);
    return (
      heard && {
        name: controlLabel(instrument, heard.control.id),
        reads: formatValue(heard.control, heard.value),
        was: 'was heard',
      }
    );
  }
}

const nameOf = ({ input, channel }: Place): string => `${input.name}, channel ${channel}`;
