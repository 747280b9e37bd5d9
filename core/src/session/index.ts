export * from './schema';
export * from './part-starts';
export * from './order';
export * from './plan';
export * from './render';
export * from './diff';
export * from './edit';
