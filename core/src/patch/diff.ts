import equal from 'fast-deep-equal';
import type { Instrument } from '../instrument/schema';
import { formatSetting } from '../reading/format';
import { inWorkingOrder } from '../rebuild/order';
import type { Patch } from './schema';

/** One difference between two patches, in the panel's own words. */
export interface Difference {
  /** JSON pointer into the patch. */
  pointer: string;
  /** Control or section it belongs to, or the field's own name. */
  subject: string;
  before: string;
  after: string;
}

/** Differences from one patch to another, controls in working order first, then notes and the rest. */
export function diffPatches(instrument: Instrument, before: Patch, after: Patch): Difference[] {
  return [
    ...controlDifferences(instrument, before, after),
    ...noteDifferences(instrument, before, after),
    ...fieldDifferences(before, after),
  ];
}

function controlDifferences(instrument: Instrument, a: Patch, b: Patch): Difference[] {
  const sections = new Map(instrument.sections.map((s) => [s.id, s.name]));
  return inWorkingOrder(instrument)
    .filter((c) => !equal(a.settings[c.id], b.settings[c.id]))
    .map((c) => ({
      pointer: `/settings/${c.id}`,
      subject: `${sections.get(c.section)} ${c.name}`,
      before: formatSetting(c, a.settings[c.id]),
      after: formatSetting(c, b.settings[c.id]),
    }));
}

function noteDifferences(instrument: Instrument, a: Patch, b: Patch): Difference[] {
  const sections = new Map(instrument.sections.map((s) => [s.id, s.name]));
  const names = new Map<string, string>();
  for (const s of instrument.sections) names.set(`section:${s.id}`, s.name);
  for (const c of instrument.controls) {
    names.set(`control:${c.id}`, `${sections.get(c.section)} ${c.name}`);
  }
  return [...new Set([...Object.keys(a.notes), ...Object.keys(b.notes)])]
    .filter((key) => a.notes[key] !== b.notes[key])
    .map((key) => ({
      pointer: `/notes/${key}`,
      subject: `Note on ${names.get(key) ?? key}`,
      before: a.notes[key] ?? '',
      after: b.notes[key] ?? '',
    }));
}

const FIELDS: [keyof Patch, string, (patch: Patch) => string][] = [
  ['name', 'Name', (p) => p.name],
  ['revision', 'Revision', (p) => p.revision ?? ''],
  ['song', 'Song', (p) => p.song],
  ['role', 'Role', (p) => p.role],
  ['tempo', 'Tempo', (p) => `${p.tempo} bpm`],
  ['about', 'About', (p) => p.about],
  ['cables', 'Cables', (p) => `${p.cables.length} cables`],
  ['phrase', 'Phrase', (p) => `${p.phrase.length} notes`],
  ['checkpoints', 'Checkpoints', (p) => `${p.checkpoints.length} checkpoints`],
];

function fieldDifferences(a: Patch, b: Patch): Difference[] {
  return FIELDS.filter(([key]) => !equal(a[key], b[key])).map(([key, subject, text]) => ({
    pointer: `/${key}`,
    subject,
    before: text(a),
    after: text(b),
  }));
}
