export {
  acrossSides,
  CROWDED,
  markedSides,
  OPEN,
  regions,
  shells,
  sidesOf,
  trianglesOfRegions,
  type Regions,
  type Sides,
} from './adjacency';
export { BorderCurves, type Snapped } from './borderCurves';
export {
  boundsOfPositions,
  boundsOfTransformed,
  centreOf,
  corners,
  emptyBounds,
  halfDiagonal,
  isEmpty,
  keepsAxes,
  transformBounds,
  unite,
  type Bounds,
} from './bounds';
export { copyCount, copyPlaces, copyTurn, signedNoise } from './copies';
export { allNear, creaseFaces, creaseNormals, faceNormals, triangleNormals, UNSOUND } from './creases';
export { decompose } from './decompose';
export { drawParts, type DrawnPart } from './drawing';
export { facesAlone, facesByShell } from './loose';
export { nearestPairs } from './nearestPairs';
export { smoothNormals } from './normals';
export { outlineOf } from './outline';
export { findOrientation } from './orientation';
export { joinMeshes, pickFaces, transformMesh } from './pieces';
export { polarDecomposition, type Polar } from './polar';
export {
  multiplyQuaternions,
  quaternionAbout,
  quaternionFromFrame,
  quaternionFromTurn,
  rotateVector,
  slerp,
  turnFromQuaternion,
  type Quaternion,
} from './rotation';
export { fitAxis, fitCircle, type FittedAxis } from './roundFaces';
export { cutOf, newSetPiece, pieceMesh, SET_PIECES } from './setPieces';
export { sideCoordinates } from './sides';
export { SAME_SHAPE, sameShape, shapeSignature, type ShapeSignature } from './signature';
export { countUp, floorMesh, sweepMesh, type TriangleMesh } from './sweep';
export {
  composeTransform,
  determinant,
  IDENTITY,
  invertTransform,
  isIdentity,
  multiplyTransforms,
  transformDirection,
  transformPoint,
  type Transform,
} from './transform';
export { add, cross, distance, dot, frameAlong, length, mix, normalize, scale, subtract, type Vector } from './vector';
export { gatherPlaces, lookedUp, ownVertices } from './vertices';
export { PlaceTable, weldPositions } from './weld';
