export * from './chord';
export * from './pitch';
export * from './note';
export * from './time';
export * from './level';
export * from './duration';
