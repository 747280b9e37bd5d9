export * from './schema';
export {
  beforeDoors,
  callFaults,
  type CallKind,
  callNames,
  type Calls,
  callsInOrder,
  songTimes,
} from './calls';
export * from './ways';
export * from './read-on';
export * from './shown-of';
export * from './known';
export * from './mover';
export * from './stored';
export * from './compromise';
export * from './plan';
export * from './better';
export * from './diff';
export * from './walk';
export * from './open-work';
export * from './learned';
export * from './hard';
export * from './least-work';
export * from './tell-note';
export * from './where';
export * from './listening';
export * from './loaded';
