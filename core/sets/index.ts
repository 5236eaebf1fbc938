export { applySet } from './applySet';
export type { ReadySet } from './kind';
export { READY_SETS } from './readySets';
export { surpriseSet } from './surprise';
