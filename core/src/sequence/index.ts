export * from './allocate';
export * from './phrase';
