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
  shownId,
  shownLoaded,
  shownMoved,
  shownSchema,
  shownTurned,
  shownUnknown,
  wayBack,
} from './shown';
