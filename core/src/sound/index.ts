export * from './engine';
export * from './random';
export * from './render';
