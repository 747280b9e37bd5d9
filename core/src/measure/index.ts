export * from './spectrum';
export * from './pitch';
export * from './level';
export * from './picture';
