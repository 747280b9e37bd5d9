export * from './schema';
export * from './calibrate';
export * from './memory';
export * from './check';
export * from './diff';
export * from './program';
