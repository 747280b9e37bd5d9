export * from './outline';
export * from './read';
export * from './write';
export * from './instrument';
export * from './diff';
export * from './outline-of';
export * from './skeleton';
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
export * from './bind';
export * from './fit-taper';
export * from './taper-points';
