import type * as z from 'zod';
import type { Problem } from './problem';

type Issue = z.core.$ZodIssue;
type Path = readonly PropertyKey[];

/**
 * What a schema found wrong, each fault at the field that is meant: where several shapes were possible, those of the shape
 * that was nearest; an unknown key at the key itself.
 * @param prefix pointer of the document within what was sent
 * @param most faults that are told
 */
export function schemaFaults(error: z.core.$ZodError, prefix = '', most = 50): Problem[] {
  return error.issues
    .flatMap((issue) => faultsOf(issue, []))
    .slice(0, most)
    .map(({ path, message }) => ({
      pointer: `${prefix}${path.map((part) => `/${token(part)}`).join('')}` || '/',
      message,
    }));
}

interface Fault {
  path: Path;
  message: string;
}

function faultsOf(issue: Issue, base: Path): Fault[] {
  const path = [...base, ...issue.path];
  switch (issue.code) {
    case 'unrecognized_keys':
      return issue.keys.map((key) => ({
        path: [...path, key],
        message: 'There is no such field here.',
      }));
    case 'invalid_key':
      return issue.issues.map((inner) => ({ path, message: inner.message }));
    case 'invalid_union':
      if (issue.errors.length > 0) return ofNearest(issue.errors, path);
      return [{ path, message: `Expected one of ${listed(issue)}.` }];
    case 'invalid_type':
      return [{ path, message: typeFault(issue) }];
    default:
      return [{ path, message: issue.message }];
  }
}

/** Zod says it in a sentence that ends with what was received; what is missing is called so. */
function typeFault({ expected, message }: Issue & { code: 'invalid_type' }): string {
  const received = /received (.+)$/.exec(message)?.[1];
  if (received === 'undefined') return `Missing: expected ${article(expected)}.`;
  return `Expected ${article(expected)}${received ? `, not ${article(received)}` : ''}.`;
}

const NAMES: Readonly<Record<string, string>> = {
  array: 'a list',
  int: 'a whole number',
  record: 'an object',
  null: 'nothing',
  NaN: 'a number that is none',
};

const article = (type: string): string =>
  (Object.hasOwn(NAMES, type) && NAMES[type]) || `${/^[aeiou]/.test(type) ? 'an' : 'a'} ${type}`;

function listed(issue: Issue & { code: 'invalid_union' }): string {
  const options = 'options' in issue && Array.isArray(issue.options) ? issue.options : [];
  return options.map((option) => `"${String(option)}"`).join(', ') || 'the shapes that are told';
}

/** Faults of the shape that came nearest: the one whose faults lie deepest, then the one with the fewest. */
function ofNearest(shapes: readonly Issue[][], path: Path): Fault[] {
  const types = shapes.map(([first, ...more]) =>
    more.length === 0 && first?.code === 'invalid_type' && first.path.length === 0
      ? article(first.expected)
      : undefined,
  );
  if (types.every((type) => type !== undefined)) {
    return [{ path, message: `Expected ${types.join(' or ')}.` }];
  }
  const told = shapes.map((issues) => issues.flatMap((issue) => faultsOf(issue, path)));
  const depth = (faults: readonly Fault[]): number =>
    Math.min(...faults.map((fault) => fault.path.length));
  const nearer = (a: Fault[], b: Fault[]): number => depth(b) - depth(a) || a.length - b.length;
  return told.sort(nearer)[0]!;
}

/** A part of a JSON pointer (RFC 6901). */
const token = (part: PropertyKey): string => String(part).replace(/~/g, '~0').replace(/\//g, '~1');
