export { conformFrameRate, rateOf } from './conformFrameRate';
export { evaluate, evaluateProperties, type FrameState, type PartState } from './evaluate';
export { behaviourOf, MOVE, MOVE_KINDS, movePaced, moveProgress, newMove, paced, type SpaceChange } from './moves';
export { keyCarried, motionPath, type MotionPath } from './motionPath';
export { rangeOf, resizeShot } from './resizeShot';
export { sampleProperty } from './sampleProperty';
export { findSeamFaults, type SeamFault } from './seam';
export { exposeFrame } from './shutter';
export { trackValue } from './track';
