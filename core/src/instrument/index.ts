export * from './schema';
export * from './check';
