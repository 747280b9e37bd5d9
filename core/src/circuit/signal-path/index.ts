export * from './fold';
export * from './shapes';
