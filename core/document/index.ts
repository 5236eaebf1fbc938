export * from './schema';
export * from './problem';
export * from './migrations';
export * from './defaults';
export * from './edits';
export * from './history';
export * from './properties';
export * from './ordering';
