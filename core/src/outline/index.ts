export * from './outline';
export * from './read';
export * from './write';
export { idFrom } from './ids';
export * from './instrument';
export * from './diff';
export * from './outline-of';
export {
  align,
  boxOf,
  covered,
  type Flush,
  mirror,
  moveBy,
  resize,
  spread,
  type Thing,
} from './hand';
export * from './copied';
export * from './put';
export { millimetresAUnit, withMillimetres, withPhotograph } from './sheet-size';
export { moduleInFocus, withModuleInFocus } from './module-focus';
export { standing, withOneMore, withoutPlaced, withStanding } from './standing';
