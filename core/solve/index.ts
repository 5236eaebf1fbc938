export { fromDirections, type DirectionMarks, type Line } from './fromDirections';
export { fromRectangle, type FoundCamera, type RectangleMarks } from './fromRectangle';
export { cameraOf, onGround, pinholeOf, rayThrough, sightOf, type Pinhole, type Sight } from './pinhole';
export { solveMotion, type SolvedMotion } from './solveMotion';
export { greyOf, pyramidOf, type Grey } from './track/pyramid';
export { snapToCorner } from './track/snapToCorner';
export type { Spot } from './track/spot';
export { trackPoint } from './track/trackPoint';
export { trackClip, type ReadFrame } from './trackClip';
