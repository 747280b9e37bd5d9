export * from './clock';
export * from './message';
export * from './sender';
