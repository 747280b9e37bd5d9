export * from './difference';
export * from './merge';
export * from './id';
