export * from './order';
export * from './time';
export * from './plan';
