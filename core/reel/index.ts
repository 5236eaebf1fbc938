export * from './timeline';
export * from './encoding';
