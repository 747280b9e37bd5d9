export * from './skeleton';
export * from './bind';
export * from './fit-taper';
export * from './taper-points';
export * from './modules';
export * from './wires';
export * from './read-wire';
export * from './circuit-room';
