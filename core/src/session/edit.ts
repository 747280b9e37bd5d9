import { freeId } from '../document';
import type { Pass, Session, SongPart } from './schema';

/** A session with one of its passes changed; what becomes undefined is taken out. */
export const withPass = (session: Session, id: string, changes: Partial<Pass>): Session => ({
  ...session,
  passes: session.passes.map((pass) => (pass.id === id ? changed(pass, changes) : pass)),
});

function changed(pass: Pass, changes: Partial<Pass>): Pass {
  const next = { ...pass, ...changes };
  if (next.pattern === undefined) delete next.pattern;
  if (next.take === undefined) delete next.take;
  return next;
}

/** A session with one of its parts changed. */
export const withPart = (session: Session, id: string, changes: Partial<SongPart>): Session => ({
  ...session,
  parts: session.parts.map((part) => (part.id === id ? { ...part, ...changes } : part)),
});

/** One part more, of four bars, at the end. */
export function addPart(session: Session): Session {
  const { parts } = session;
  const part = { id: freeId('part', parts), name: `part ${parts.length + 1}`, bars: 4 };
  return { ...session, parts: [...parts, part] };
}

/** A session without one of its parts; no pass plays in it any more. The last part stays. */
export function withoutPart(session: Session, id: string): Session {
  if (session.parts.length < 2) return session;
  return {
    ...session,
    parts: session.parts.filter((part) => part.id !== id),
    passes: session.passes.map((pass) => {
      const { [id]: _, ...plays } = pass.plays;
      return { ...pass, plays };
    }),
  };
}

/** One pass more, playing in every part; gives its id. */
export function addPass(
  session: Session,
  { patch, name, pattern }: Pick<Pass, 'patch' | 'name' | 'pattern'>,
): { session: Session; id: string } {
  const id = freeId('pass', session.passes);
  const pass: Pass = {
    id,
    name: name.slice(0, 60),
    patch,
    ...(pattern === undefined ? {} : { pattern }),
    plays: Object.fromEntries(session.parts.map((part) => [part.id, ''])),
    level: -6,
    pan: 0,
    muted: false,
  };
  return { session: { ...session, passes: [...session.passes, pass] }, id };
}

export const withoutPass = (session: Session, id: string): Session => ({
  ...session,
  passes: session.passes.filter((pass) => pass.id !== id),
});

/** A session with one of its passes some places further down, or up; at the ends it stays. */
export function movePass(session: Session, id: string, by: number): Session {
  const passes = [...session.passes];
  const from = passes.findIndex((pass) => pass.id === id);
  const [pass] = passes.splice(from, 1);
  const to = from + by;
  if (from < 0 || !pass || to < 0 || to > passes.length) return session;
  passes.splice(to, 0, pass);
  return { ...session, passes };
}

/** A pass in a part: silent, then the patch as it is, then each variation, then silent again. */
export function cyclePlay(
  session: Session,
  id: string,
  part: string,
  variations: readonly string[],
): Session {
  const pass = session.passes.find((p) => p.id === id);
  if (!pass) return session;
  const ways = [undefined, '', ...variations];
  const next = ways[(ways.indexOf(pass.plays[part]) + 1) % ways.length];
  const { [part]: _, ...others } = pass.plays;
  return withPass(session, id, {
    plays: next === undefined ? others : { ...others, [part]: next },
  });
}
