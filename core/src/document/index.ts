export * from './by-id';
export * from './difference';
export * from './merge';
export * from './id';
export type { Problem } from './problem';
export * from './schema-faults';
export { type Sitting, sittingsOf } from './sittings';
