export * from './photometry';
export * from './color';
export * from './lens';
export * from './absorption';
