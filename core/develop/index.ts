export * from './darkroom';
export * from './exr';
export * from './frame';
export * from './half';
export * from './noiseFilter';
export * from './tone';
export * from './matteId';
export * from './specks';
