export * from './film';
export * from './passes';
export * from './settings';
export * from './identity';
export * from './scene';
export * from './sky';
export * from './tiles';
export * from './layers';
