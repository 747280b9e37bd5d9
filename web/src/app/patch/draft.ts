import { type Patch, patchSchema } from '@hurrel/core';

/** Edits that the server has not acknowledged yet, kept in the browser so that a closed tab loses nothing. */
export interface Draft {
  /** Version that the edits were made on. */
  version: number;
  patch: Patch;
}

const keyOf = (id: string): string => `hurrel.draft.${id}`;

export function keepDraft(id: string, draft: Draft): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(draft));
  } catch {
    // Storage full or forbidden: the server is the store of record, and is told at once anyway.
  }
}

export const dropDraft = (id: string): void => localStorage.removeItem(keyOf(id));

/** The draft of a patch, or undefined when there is none that can be read. */
export function findDraft(id: string): Draft | undefined {
  const text = localStorage.getItem(keyOf(id));
  if (text === null) return undefined;
  try {
    const draft = JSON.parse(text) as Draft;
    return { version: Number(draft.version), patch: patchSchema.parse(draft.patch) };
  } catch {
    dropDraft(id);
    return undefined;
  }
}
