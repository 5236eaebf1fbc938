export { readMaterialX, type FinishFile } from './read';
export { writeMaterialX } from './write';
