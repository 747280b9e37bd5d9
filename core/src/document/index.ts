export * from './difference';
export * from './merge';
