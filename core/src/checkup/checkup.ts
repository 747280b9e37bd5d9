import { boundsOf } from '../circuit/bounds';
import { compile } from '../circuit/compile';
import { applyMend, diagnose, type Finding, type Mend } from '../circuit/doctor';
import { cancellingId, meetingsOf } from '../circuit/doctor/cancelling';
import { merged } from '../circuit/doctor/mend';
import type { Graph } from '../circuit/graph';
import type { Instrument } from '../instrument/schema';
import { hasCircuit } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import { phraseToNotes, type TimedNote } from '../pattern/timed';
import { renderedDip } from './cancellation';
import { examineLosses } from './losses';
import { drones, type Played, sounds } from './sounding';
import { renderVerdict } from './rendered';
import { triesFor } from './tries';
import { verdictsOf } from './verdicts';

/** dB that a cancelling mend may leave at most: one sound at half of the other, and what measuring adds. */
const DIP_LEFT = -10.5;

/**
 * The doctor's findings, each held against the sound: silence is what is below -80 dB when it is rendered, over the phrase
 * and over what runs by itself; and a mend is shown when it was applied to a copy and the finding was gone, nothing worse
 * had come, and the copy was heard.
 * @param notes keys it is judged by; the patch's own phrase unless given; none: what runs by itself
 */
export function checkup(
  instrument: Instrument,
  patch: Patch,
  notes: readonly TimedNote[] = phraseToNotes(patch.phrase, patch.tempo),
): Finding[] {
  if (!hasCircuit(instrument)) return [];
  const played: Played = { notes, tempo: patch.tempo };
  const graph = compile(instrument, patch);
  const heard = sounds(graph, played);
  const found = diagnose(instrument, patch, notes, heard).filter(
    (f) => !f.id.startsWith('drone:') || (heard && drones(graph, played)),
  );
  const unexplained = !heard && !found.some((f) => f.severity === 'silent');
  const all = unexplained
    ? [examineLosses(instrument, patch, played), ...found]
    : [...found, ...unsaid(found, heard ? judged(graph, played) : [])];
  const doctor = new Trial(instrument, patch, played, heard, all);
  const silent = together(
    doctor,
    all.filter((f) => f.severity === 'silent'),
  ).map((f) => proven(doctor, f));
  const cured = withCure(doctor, silent, () => examineLosses(instrument, patch, played).mend);
  // What else was found is judged by what is heard once the silence is mended.
  const cure = cured.find((f) => f.mend)?.mend;
  const open = cure ? doctor.after(cure) : doctor;
  return [...cured, ...all.filter((f) => f.severity !== 'silent').map((f) => proven(open, f))];
}

const judged = (graph: Graph, played: Played): Finding[] =>
  verdictsOf(graph, renderVerdict(graph, played), played.notes.length > 0);

/** Verdicts on what was heard, but for what the graph has told already. */
function unsaid(found: readonly Finding[], verdicts: readonly Finding[]): Finding[] {
  const told = (begin: string): boolean => found.some((f) => f.id.startsWith(begin));
  const explained = found.some((f) => f.severity === 'wrong' || f.severity === 'silent');
  return verdicts.filter(({ id }) => {
    if (id.startsWith('endless:')) return !told('drone:');
    // That it is faint says nothing where it is said why.
    return !id.startsWith('faint:') || !explained;
  });
}

const isVerdict = (id: string): boolean =>
  ['clips:', 'endless:', 'only-without-key:', 'below-hearing:', 'faint:'].some((begin) =>
    id.startsWith(begin),
  );

/** A silence that nothing it names cures: the cure is looked for among all that stands otherwise than in the init patch. */
function withCure(doctor: Trial, silent: Finding[], look: () => Mend | undefined): Finding[] {
  const [first, ...more] = silent;
  if (!first || first.id === 'silent-sum' || silent.some((f) => f.mend)) return silent;
  const mend = look();
  return mend && doctor.cures(first, mend) ? [{ ...first, mend }, ...more] : silent;
}

/** Several doors that are shut at once: what opens one of them brings no sound, what opens all of them does. */
function together(doctor: Trial, silent: Finding[]): Finding[] {
  const mends = silent.flatMap((f) => f.mend ?? []);
  if (mends.length < 2 || silent.some((f) => f.mend && doctor.cures(f, f.mend))) return silent;
  const mend = merged(mends);
  return silent.map((f) => ({ ...f, mend }));
}

function proven(doctor: Trial, finding: Finding): Finding {
  const { mend: _mend, others: _others, ...told } = finding;
  // What changes nothing is only marked so.
  if (finding.severity === 'idle') return finding;
  const mend = doctor.mendFor(finding);
  return mend ? { ...told, mend } : told;
}

/** Mends of what is heard that are listened to, each as long as the phrase and its tail. */
const LISTENED = 8;

/** Mends that bring something worse, and are then tried together with what mends that, at most. */
const CHAINS = 6;

/** Mends tried on copies of a patch. */
class Trial {
  private readonly before: ReadonlySet<string>;

  constructor(
    private readonly instrument: Instrument,
    private readonly patch: Patch,
    private readonly played: Played,
    private readonly heard: boolean,
    findings: readonly Finding[],
  ) {
    this.before = new Set(findings.map((f) => f.id));
  }

  /** The same patch once a mend is applied that brings sound. */
  after(mend: Mend): Trial {
    const { instrument, played } = this;
    const patch = applyMend(this.patch, mend);
    return new Trial(
      instrument,
      patch,
      played,
      true,
      diagnose(instrument, patch, played.notes, true),
    );
  }

  /** The first change that mends a finding: alone, or with what mends that which it brings to light. */
  mendFor(finding: Finding): Mend | undefined {
    let chains = 0;
    const all = triesFor(this.instrument, this.patch, finding);
    for (const mend of isVerdict(finding.id) ? all.slice(0, LISTENED) : all) {
      const worse = this.worseAfter(finding, mend);
      if (worse === undefined) continue;
      if (worse.length === 0) {
        if (this.isHeard(finding, mend)) return mend;
        continue;
      }
      const further = worse.flatMap((f) => f.mend ?? []);
      if (further.length < worse.length || chains++ >= CHAINS) continue;
      const both = merged([mend, ...further]);
      if (this.cures(finding, both)) return both;
    }
    return undefined;
  }

  cures(finding: Finding, mend: Mend): boolean {
    return this.worseAfter(finding, mend)?.length === 0 && this.isHeard(finding, mend);
  }

  /** What a mend brings that is worse than a hint and was not there; undefined when the finding is still there. */
  private worseAfter(finding: Finding, mend: Mend): Finding[] | undefined {
    const copy = applyMend(this.patch, mend);
    const after = diagnose(this.instrument, copy, this.played.notes, this.heard);
    if (after.some((f) => f.id === finding.id)) return undefined;
    // What is shut by its graph need not be listened to.
    if (finding.severity === 'silent') {
      // Once it sounds much may be found that silence hid: that is no reason to leave it silent.
      return after.some((f) => f.severity === 'silent') ? undefined : [];
    }
    return after.filter(
      (f) => !this.before.has(f.id) && (f.severity === 'silent' || f.severity === 'wrong'),
    );
  }

  private isHeard(finding: Finding, mend: Mend): boolean {
    const copy = applyMend(this.patch, mend);
    const graph = compile(this.instrument, copy);
    // A patch that stays silent is no better than it was, whatever its graph says.
    if (this.played.notes.length > 0 && !sounds(graph, this.played, 'trial')) return false;
    if (isVerdict(finding.id) && judged(graph, this.played).some((f) => f.id === finding.id))
      return false;
    return !finding.id.startsWith('cancelling:') || this.staysApart(finding, graph, copy);
  }

  /** Renders what two sounds leave of each other with the mend: none of their meetings may go deep. */
  private staysApart(finding: Finding, graph: Graph, patch: Patch): boolean {
    const bounds = boundsOf(graph, this.played.notes);
    const { instrument, played } = this;
    return meetingsOf({ instrument, patch, graph, bounds, notes: played.notes })
      .filter((met) => finding.id === cancellingId(met))
      .every((met) => renderedDip(graph, met, played) >= DIP_LEFT);
  }
}
