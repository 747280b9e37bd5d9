export * from './checkup';
export { SILENCE, sounds } from './sounding';
