export * from './wav';
export * from './read-wav';
export * from './plot-svg';
