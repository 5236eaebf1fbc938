export * from './photometry';
export * from './color';
export * from './lens';
export * from './absorption';
export * from './lamps';
export * from './skyModel';
export * from './surroundings';
export * from './balance';
