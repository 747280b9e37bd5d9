import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Finding, Mend } from '@hurrel/core';

/** What the doctor says of a patch: mended with a click, or kept as meant with a reason. */
@Component({
  selector: 'hur-findings',
  templateUrl: './findings.html',
  styleUrl: './findings.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Findings {
  readonly findings = input.required<readonly Finding[]>();
  /** They are of a patch that has been edited since: what it comes to now is being found out. */
  readonly checking = input(false);
  /** Controls of which nothing is recorded: they are taken to stand at their start. */
  readonly assumed = input(0);
  /** The circuit behind the panel is described. */
  readonly modelled = input(true);

  readonly mended = output<Mend>();
  /** Control, or cable, that a finding is about. */
  readonly shown = output<string>();
  readonly cableShown = output<string>();
  readonly meant = output<{ id: string; note: string | null }>();
  readonly readNotes = output<void>();

  /** Finding whose reason is being asked for. */
  protected readonly asking = signal<string | null>(null);
  /** The list may be long: it is made once somebody looks. */
  protected readonly idleOpen = signal(false);
  protected readonly faults = computed(() =>
    this.findings().filter((f) => f.severity !== 'idle' && f.meant === undefined),
  );
  protected readonly idle = computed(() =>
    this.findings().filter((f) => f.severity === 'idle' && f.meant === undefined),
  );
  protected readonly meantSo = computed(() => this.findings().filter((f) => f.meant !== undefined));

  protected show(finding: Finding): void {
    if (finding.cables?.[0]) this.cableShown.emit(finding.cables[0]);
    if (finding.controls[0]) this.shown.emit(finding.controls[0]);
  }

  protected ask(finding: Finding): void {
    this.asking.set(finding.id);
    setTimeout(() => document.querySelector<HTMLInputElement>('hur-findings form input')?.focus());
  }

  protected say(finding: Finding, note: string): void {
    this.asking.set(null);
    this.meant.emit({ id: finding.id, note: note.trim() });
  }
}
