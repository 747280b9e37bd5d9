export * from './schema';
export * from './ways';
export * from './plan';
export * from './better';
export * from './diff';
