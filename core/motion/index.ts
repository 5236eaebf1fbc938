export * from './evaluate';
export * from './grip';
export * from './moves';
export * from './pace';
export * from './track';
export * from './shutter';
export * from './partMesh';
export * from './partTree';
