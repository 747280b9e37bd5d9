export * from './order';
export * from './time';
export * from './cables';
export * from './plan';
export * from './say';
