import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { controlHeard, controlLabel, formatValue, type Instrument } from '@hurrel/core';
import { MidiInService } from './midi-in.service';
import { PanelInputs, type Place } from './panel-inputs';

/** Lets MIDI in, and asks whether it is this panel that is heard. */
@Component({
  selector: 'hur-heard-at',
  template: `
    @if (!midi.supported) {
      @if (tells()) {
        <p>Its knobs speak over MIDI, which this browser has not.</p>
      }
    } @else if (midi.inputs().length === 0) {
      <button type="button" class="btn" (click)="midi.connect()">Hear its knobs over MIDI</button>
    } @else if (asks(); as asks) {
      <div role="status" class="asks">
        <p>
          {{ asks.name }} <strong class="mono">{{ asks.reads }}</strong> was heard at
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
          Turn one of its knobs: it is asked once whether it is this panel that is heard.
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
  protected readonly asks = computed(() => {
    const asked = this.inputs.asked();
    if (asked?.panel !== this.panel()) return null;
    const { moved } = asked;
    const heard = controlHeard(this.instrument().controls, moved.cc, moved.sent);
    return (
      heard && {
        place: moved,
        name: controlLabel(this.instrument(), heard.control.id),
        reads: formatValue(heard.control, heard.value),
        at: nameOf(moved),
      }
    );
  });
}

const nameOf = ({ input, channel }: Place): string => `${input.name}, channel ${channel}`;
