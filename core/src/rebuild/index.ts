export * from './time';
export * from './cables';
export * from './step';
export * from './plan';
export * from './say';
