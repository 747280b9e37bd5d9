export * from './allocate';
export * from './phrase';
export * from './line';
export * from './two-pass';
