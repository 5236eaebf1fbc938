export * from './vector';
export * from './rotation';
export * from './transform';
export * from './bounds';
export * from './normals';
export * from './sweep';
export * from './polar';
export * from './sides';
