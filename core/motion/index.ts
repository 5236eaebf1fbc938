export * from './evaluate';
export * from './moves';
export * from './pace';
export * from './track';
