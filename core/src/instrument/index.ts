export * from './jack';
export * from './matrix';
export * from './memory';
export * from './rack';
export * from './schema';
export * from './check';
export * from './face';
export * from './arrange';
