export * from './difference';
export * from './merge';
export * from './id';
export type { Problem, Report } from './problem';
export * from './schema-faults';
