export * from './wav';
export * from './read-wav';
export * from './plot-svg';
export * from './midi-file';
