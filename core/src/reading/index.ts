export * from './dial';
export * from './interpolate';
export * from './taper';
export * from './unit';
export * from './resolution';
export * from './format';
export * from './clock-words';
export * from './parse';
