export * from './clock';
export * from './message';
