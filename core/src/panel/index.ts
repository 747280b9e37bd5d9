export * from './shape';
export * from './place';
export * from './draw-control';
export * from './codes';
export * from './draw-movement';
export * from './draw-jack';
export * from './draw-cable';
