export * from './schema';
export * from './order';
export * from './plan';
export * from './render';
export * from './diff';
export * from './edit';
