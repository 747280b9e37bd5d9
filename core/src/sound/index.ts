export * from './engine';
export * from './random';
export * from './render';
export { Act } from './key-feed';
export { BLOCK } from './kernel';
export * from './live';
