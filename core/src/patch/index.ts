export * from './schema';
export * from './check';
export * from './setting';
export * from './create';
export * from './diff';
export * from './merge';
export * from './note-line';
