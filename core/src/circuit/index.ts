export * from './catalogue';
export * from './graph';
export * from './compile';
export * from './bounds';
export * from './reach';
export * from './prune';
export * from './doctor';
