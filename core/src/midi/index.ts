export * from './clock';
export * from './message';
export * from './programs';
export * from './sender';
