export * from './checkup';
