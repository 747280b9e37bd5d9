export * from './engine';
export * from './random';
export * from './render';
export { Act } from './key-feed';
export * from './live';
export * from './pattern-player';
export * from './part';
export * from './render-parts';
export * from './part-source';
