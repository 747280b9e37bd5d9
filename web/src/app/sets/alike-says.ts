import { type Evening, panelsAlike } from '@hurrel/core';

/** Which panels are not told apart, and what is missing; empty where each is a unit, or the only one of its kind. */
export const alikeSays = (evening: Evening | null): string[] =>
  evening
    ? panelsAlike(evening).map(
        (all) =>
          `${listed(all.map((p) => p.name))} are not told apart: what one shows, or sends over MIDI, is not believed. Say which unit each of them is.`,
      )
    : [];

const listed = (names: readonly string[]): string =>
  `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
