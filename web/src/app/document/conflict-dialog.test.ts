import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import {
  blankPatch,
  instrumentOf,
  instrumentSchema,
  type Patch,
  readOutline,
  withModule,
  withModuleName,
  withSequencer,
} from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { describedAs } from '../../testing/open-instrument';
import { instrumentSides } from '../instruments/instrument.document';
import { patchSides } from '../patch/patch.kind';
import { ConflictDialog } from './conflict-dialog';

const instrument = instrumentSchema.parse(document);
const base: Patch = {
  ...blankPatch(instrument, 'x'),
  settings: { cutoff: { kind: 'set', value: 0.5 }, drive: { kind: 'set', value: 0 } },
};
const mine: Patch = {
  ...base,
  settings: { cutoff: { kind: 'set', value: 0.2 }, drive: { kind: 'set', value: 0.3 } },
};
const theirs: Patch = {
  ...base,
  tempo: 99,
  settings: { ...base.settings, cutoff: { kind: 'set', value: 0.7 } },
};

let closed: Patch | undefined;
let fixture: ComponentFixture<ConflictDialog>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const press = (name: string): void =>
  [...page().querySelectorAll('button')].find((b) => b.textContent!.trim() === name)!.click();

beforeEach(async () => {
  closed = undefined;
  const modal = { close: (patch: Patch) => (closed = patch), dismiss: () => undefined };
  TestBed.configureTestingModule({ providers: [{ provide: NgbActiveModal, useValue: modal }] });
  fixture = TestBed.createComponent(ConflictDialog);
  fixture.componentInstance.start('patch', patchSides(instrument), base, mine, theirs);
  await fixture.whenStable();
});

describe('the choice between two states of a patch', () => {
  it('lists every difference, and says which both have changed', () => {
    const rows = [...page().querySelectorAll('tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent!.replace(/\s+/g, ' ').trim()).join(' | '),
    );
    expect(rows).toEqual([
      'Mix drive | 3 | 0',
      'Filter cutoff both changed it | 2 | 7',
      'Tempo | 120 bpm | 99 bpm',
    ]);
  });

  it('keeps mine or takes theirs as a whole', () => {
    press('Keep mine');
    expect(closed).toEqual(mine);
    press('Take theirs');
    expect(closed).toEqual(theirs);
  });

  it('merges: each side’s own change, mine where both did', () => {
    press('Merge as chosen');
    expect(closed).toEqual({ ...mine, tempo: 99 });
  });

  it('merges line by line as chosen', async () => {
    const radios = [...page().querySelectorAll<HTMLInputElement>('input[type=radio]')];
    // Theirs for the cutoff, mine for the tempo.
    radios[3]!.click();
    radios[4]!.click();
    await fixture.whenStable();
    press('Merge as chosen');
    expect(closed).toEqual({
      ...base,
      settings: { cutoff: { kind: 'set', value: 0.7 }, drive: { kind: 'set', value: 0.3 } },
    });
  });

  it('takes a pattern that only they have written, though the row stands for all patterns', async () => {
    const pattern = { id: 'p1', name: 'theirs' } as Patch['patterns'][number];
    fixture.componentInstance.start('patch', patchSides(instrument), base, mine, {
      ...theirs,
      patterns: [pattern],
    });
    await fixture.whenStable();
    press('Merge as chosen');
    expect(closed?.patterns).toEqual([pattern]);
  });
});

describe('the choice between two states of a described instrument', () => {
  const text = 'Crane by Own\n\nFilter:\ncutoff 0..10\n\nOut:\nvolume 0..10';
  const crane = describedAs(text);
  const retyped = (to: string) => instrumentOf(readOutline(to).outline, to, crane);
  const built = (name: string, sheet: typeof crane): typeof crane =>
    withModuleName(withModule(sheet, 'oscillator').instrument, 'oscillator', name);
  const ours = built('tone', retyped(text.replace('cutoff', 'brightness')));
  const other = withSequencer(
    built('voice', retyped(text.replace('volume', 'level'))),
    'arpeggio',
  ).instrument;
  const rows = (): [string, string][] =>
    [...page().querySelectorAll('tbody tr')].map((row) => {
      const [subject, , them] = [...row.children].map((c) =>
        c.textContent!.replace(/\s+/g, ' ').trim(),
      );
      return [subject!, them!];
    });

  beforeEach(async () => {
    fixture.componentInstance.start('instrument', instrumentSides(), crane, ours, other);
    await fixture.whenStable();
  });

  it('lists pieces, and says which both have changed', () => {
    expect(rows().map(([subject]) => subject)).toEqual([
      ...['Filter, in words', 'Out, in words', 'Module voice both changed it'],
      'Sequencer arpeggio',
    ]);
  });

  it('merges: each side’s own pieces, mine where both did, or theirs as chosen', async () => {
    press('Merge as chosen');
    const merged = closed as unknown as typeof crane;
    expect(merged.controls.map((c) => c.name)).toEqual(['brightness', 'level']);
    expect(merged.circuit.modules[0]!.name).toBe('tone');
    expect(merged.sequencers).toEqual(other.sequencers);
    const radios = [...page().querySelectorAll<HTMLInputElement>('input[type=radio]')];
    radios[5]!.click();
    await fixture.whenStable();
    press('Merge as chosen');
    expect((closed as unknown as typeof crane).circuit.modules[0]!.name).toBe('voice');
  });
});
