export * from './denoise';
export * from './develop';
export * from './exr';
export * from './frame';
export * from './half';
export * from './tone';
