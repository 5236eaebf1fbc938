export { bundleSchema, liftThings, putThings, type Bundle, type Thing } from './bundle';
export { cameraAxes } from './cameraAxes';
export { carryPlaces, unwound } from './carriedMotion';
export { focusDistanceTo, followedPoint } from './focus';
export { lampsOf, lightOf } from './lightTrack';
export { forgetTargets } from './forget';
export {
  aimed,
  aimPlace,
  carried,
  flown,
  gripAxes,
  gripPlace,
  sized,
  turned,
  type Flight,
  type Grip,
  type GripAxes,
} from './grip';
export { partMesh } from './partMesh';
export {
  attachNodes,
  carryAimed,
  duplicateNodes,
  groupNodes,
  joinParts,
  nameByPattern,
  partsAlike,
  placeLocally,
  removeNodes,
  separateCopies,
  splitPart,
  topmost,
  ungroupNode,
} from './partTree';
export { axisInParent, setPivot, setPivotInWorld } from './pivot';
export { unplaceAimed } from './carried';
export {
  copyTransforms,
  localTransform,
  placedAimed,
  placeNode,
  SEEN_BY_ALL,
  worldTransforms,
  type PlacedNode,
  type Seen,
} from './placement';
export { rescaleNode } from './rescale';
export { restingState, type SceneState } from './state';
export {
  CAPTURE_SHAPES,
  captureCount,
  captureRadius,
  captureStations,
  type CapturePlan,
  type CaptureShape,
} from './captureStations';
