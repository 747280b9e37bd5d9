import type { Instrument } from '../../instrument/schema';
import { hasCircuit } from '../../instrument/switched';
import { withoutCables } from '../../patch/cables';
import { withRow } from '../../patch/matrix';
import type { MatrixRow, Patch } from '../../patch/schema';
import { phraseToNotes, type TimedNote } from '../../pattern/timed';
import { boundsOf } from '../bounds';
import { compile } from '../compile';
import { audibilityOf } from '../audibility';
import { examineCables } from './cabling';
import { examineCancelling } from './cancelling';
import { examineClocks, examineEffects } from './effects';
import { examineDrones } from './drone';
import { examineEnvelopes, examineRises, examineTails } from './envelope';
import { examineClosedFilters } from './closed-filter';
import { examineBands, examineFilters } from './filter';
import type { Case, Finding, Mend } from './finding';
import { examineIdle } from './idle';
import { examineLeftovers } from './leftovers';
import { examinePaths } from './paths';
import { examinePinned } from './pinned';
import { examinePulses } from './pulse';
import { examineRange } from './range';
import { examineSync } from './sync';
import { examineTuning } from './tuning';

export type { Finding, Mend, Severity } from './finding';

/** Findings to be looked at: all but what is meant so, and what only changes nothing. */
export const openFindings = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f) => f.severity !== 'idle' && f.meant === undefined);

const RANK = { silent: 0, wrong: 1, hint: 2, idle: 3 };

/**
 * Says why a patch is silent, what in it is hardly meant, and which recorded controls change nothing, worst first. Works
 * on the compiled graph: it knows modules, not names of knobs.
 * @param notes keys it is judged by; the patch's own phrase unless given
 * @param heard it was rendered, and is heard: then nothing is called silent
 */
export function diagnose(
  instrument: Instrument,
  patch: Patch,
  notes: readonly TimedNote[] = phraseToNotes(patch.phrase, patch.tempo),
  heard = false,
): Finding[] {
  // Of what is only recorded nothing can be said.
  if (!hasCircuit(instrument)) return [];
  const given = openCase(instrument, patch, notes);
  const silence = heard ? [] : examinePaths(given);
  // With everything closed nothing else could be said: look at what would be heard once the silence is mended.
  const mends = silence.flatMap((f) => f.mend ?? []);
  const open =
    mends.length > 0 ? openCase(instrument, mends.reduce(applyMend, patch), notes) : given;
  const reach = audibilityOf(open.graph, open.bounds);
  const findings = [
    ...silence,
    ...examineFilters(open, reach),
    ...examineBands(open, reach),
    ...examineClosedFilters(open, reach),
    ...examineEnvelopes(open, reach),
    ...examinePulses(open, reach),
    ...examineSync(open, reach),
    ...examineCables(open),
    ...examineTuning(open, reach),
    ...examineCancelling(open, reach),
    ...examineRange(open, reach),
    ...examineTails(open, reach),
    ...examineRises(open, reach),
    ...examineDrones(open, reach),
    ...examinePinned(open, reach),
    ...examineEffects(open, reach),
    ...examineClocks(open, reach),
    ...examineLeftovers(open, reach),
    ...examineIdle(open, reach),
  ].map((found) => {
    const f = heard ? asHeard(found) : found;
    const meant = patch.meant[f.id];
    return meant === undefined ? f : { ...f, meant };
  });
  return oncePerId(findings.sort((a, b) => RANK[a.severity] - RANK[b.severity]));
}

/** By its id one says what is meant so: it names one finding. Of several about the same thing the worst is told. */
function oncePerId(findings: readonly Finding[]): Finding[] {
  const told = new Set<string>();
  return findings.filter(({ id }) => !told.has(id) && told.add(id));
}

/** A finding that speaks of silence, of a patch that is heard all the same. */
const asHeard = (f: Finding): Finding =>
  f.severity === 'silent'
    ? {
        ...f,
        severity: 'wrong',
        title: f.title.replace(/^Silent: (.)/, (_, first: string) => first.toUpperCase()),
      }
    : f;

function openCase(instrument: Instrument, patch: Patch, notes: readonly TimedNote[]): Case {
  const graph = compile(instrument, patch);
  return { instrument, patch, graph, bounds: boundsOf(graph, notes), notes };
}

/** A patch with a mend applied. */
export function applyMend(patch: Patch, mend: Mend): Patch {
  const settings = { ...patch.settings };
  for (const [id, setting] of Object.entries(mend.settings)) {
    if (setting) settings[id] = setting;
    else delete settings[id];
  }
  const left = withoutCables({ ...patch, settings }, mend.pull ?? []);
  return {
    ...left,
    cables: [...left.cables, ...(mend.plug ?? [])],
    matrix: (mend.rows ?? []).reduce<MatrixRow[]>(
      (rows, row) => withRow(rows, row.depth === 0 ? row.row : row),
      left.matrix,
    ),
  };
}
