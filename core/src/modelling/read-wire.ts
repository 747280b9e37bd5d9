import { isModuleKind, moduleSpec } from '../catalogue';
import type { Instrument } from '../instrument/schema';
import { type WireEnds, wireFault } from './wires';

interface Spelt {
  port: string;
  /** As it is told: `saw of oscillator 1`. */
  text: string;
  spellings: string[];
}

/**
 * Reads a wire as one says it: `saw of oscillator 1 > in1 of mixer`, `oscillator 1 saw to mixer 1`, `osc1.saw > mix.in1`. A
 * module alone is its only port on that side, or the one named `in` or `out`. An exact name wins; of several that begin so, none.
 * @returns its ends, or what is wrong and which ports it may have been
 */
export function readWire(text: string, instrument: Instrument): WireReading {
  const splits = splitsOf(text.trim());
  if (splits.length === 0)
    return { ok: false, message: 'Write what leads where: saw of oscillator 1 > in1 of mixer' };
  const readings = splits.map(([from, to]) => readEnds(from, to, instrument));
  return readings.find((r) => r.ok) ?? readings[0]!;
}

export type WireReading = { ok: true; ends: WireEnds } | { ok: false; message: string };

/** Where a wire's words part: at the arrow, or at one of the words `to`, which names may hold too. */
function splitsOf(text: string): [from: string, to: string][] {
  const arrow = /^(.+?)\s*[>→]\s*(.+)$/.exec(text);
  if (arrow) return [[arrow[1]!, arrow[2]!]];
  return [...text.matchAll(/\sto\s/gi)].map((m) => [
    text.slice(0, m.index),
    text.slice(m.index + m[0].length),
  ]);
}

function readEnds(left: string, right: string, instrument: Instrument): WireReading {
  const from = find(left, portsOf(instrument, 'outputs'), 'output');
  if (!from.ok) return from;
  const to = find(right, portsOf(instrument, 'inputs'), 'input');
  if (!to.ok) return to;
  const ends = { from: from.port, to: to.port };
  const fault = wireFault(instrument, ends);
  return fault === null ? { ok: true, ends } : { ok: false, message: fault };
}

/** Every port on one side of a circuit, as it is told: `saw of oscillator 1`. */
export const portNames = (
  instrument: Instrument,
  side: 'inputs' | 'outputs',
): { port: string; text: string }[] =>
  portsOf(instrument, side).map(({ port, text }) => ({ port, text }));

function portsOf(instrument: Instrument, side: 'inputs' | 'outputs'): Spelt[] {
  return instrument.circuit.modules.flatMap((m) => {
    if (!isModuleKind(m.kind)) return [];
    const ports = Object.keys(moduleSpec(m.kind)[side]).filter((name) => name !== 'hz');
    return ports.map((name): Spelt => {
      const module = m.name ?? m.id;
      const alone = ports.length === 1 || name === 'in' || name === 'out';
      const names = [
        `${m.id}.${name}`,
        ...[module, m.id].flatMap((word) => [`${word} ${name}`, `${name} of ${word}`]),
        ...(alone ? [module, m.id] : []),
        // `mixer 1` for its first channel.
        ...(/^in\d+$/.test(name) ? [`${module} ${name.slice(2)}`] : []),
      ];
      return { port: `${m.id}.${name}`, text: `${name} of ${module}`, spellings: names.map(plain) };
    });
  });
}

const plain = (words: string): string => words.toLowerCase().replace(/[^a-z0-9+]+/g, '');

function find(
  words: string,
  ports: readonly Spelt[],
  side: string,
): { ok: true; port: string } | { ok: false; message: string } {
  const wanted = plain(words);
  // An id is the file's own name for a port: what is written so is meant so.
  const byId = ports.find((p) => p.port === words.trim().toLowerCase());
  if (byId) return { ok: true, port: byId.port };
  const exact = ports.filter((p) => p.spellings.includes(wanted));
  const found =
    exact.length > 0 ? exact : ports.filter((p) => p.spellings.some((s) => s.startsWith(wanted)));
  if (found.length === 1) return { ok: true, port: found[0]!.port };
  const few = (found.length > 0 ? found : ports).slice(0, 5).map((p) => p.text);
  return found.length === 0
    ? { ok: false, message: `There is no ${side} "${words.trim()}". There is ${few.join(', ')} …` }
    : { ok: false, message: `"${words.trim()}" may be ${few.join(', ')}: say which.` };
}
