export { conformFrameRate, rateOf } from './conformFrameRate';
export { dressedBy } from './colourways';
export { separateDressedCopies } from './dressedCopies';
export { evaluate, evaluateProperties, type FrameState, type PartState } from './evaluate';
export {
  behaviourOf,
  changedBy,
  MOVE,
  MOVE_KINDS,
  movePaced,
  moveProgress,
  newMove,
  paced,
  stationOf,
  type Occasion,
  type SpaceChange,
} from './moves';
export { mendLoop } from './mendLoop';
export { keyCarried, motionPath, type MotionPath } from './motionPath';
export { rangeOf, resizeShot, splitShot } from './resizeShot';
export { sampleProperty } from './sampleProperty';
export { findSeamFaults, type SeamFault } from './seam';
export { exposeFrame } from './shutter';
export { simplifyKeys } from './simplifyKeys';
export { trackValue } from './track';
export { putUnfolded, unfoldMoves, type Unfolded } from './unfold';
export { SEEN_BY_ALL } from '../scene';
