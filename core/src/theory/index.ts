export * from './chord';
export * from './chord-name';
export * from './voltage-row';
export * from './pitch';
export * from './note';
export * from './time';
export * from './level';
export * from './duration';
