export * from './time';
export * from './cables';
export * from './step';
export * from './plan';
export * from './arrived';
export * from './say';
export {
  beforeShown,
  certainOf,
  type Shown,
  shownAfter,
  shownAs,
  shownHeard,
  shownHeardThen,
  shownMoved,
  shownSchema,
  shownTurned,
  wayBack,
} from './shown';
