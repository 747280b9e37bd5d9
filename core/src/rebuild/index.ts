export * from './time';
export * from './cables';
export * from './step';
export * from './plan';
export * from './say';
export {
  beforeShown,
  type Shown,
  shownAfter,
  shownAs,
  shownSchema,
  shownTurned,
  wayBack,
} from './shown';
