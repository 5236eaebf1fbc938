export * from './heap';
export * from './kernel';
