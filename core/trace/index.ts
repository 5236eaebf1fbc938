export * from './settings';
export * from './identity';
export * from './kernel';
export * from './scene';
export * from './sky';
export * from './tiles';
