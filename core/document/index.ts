export {
  defaultLook,
  defaultRecipe,
  newAsset,
  newCamera,
  newClip,
  newCopies,
  newDocument,
  newFinish,
  newLabel,
  newLight,
  newNode,
  newShot,
  newSound,
  newTitle,
  newTrack,
} from './defaults';
export { blendFinishes } from './blendFinishes';
export { editFault } from './editFault';
export { applyDocumentPatches, copyOf, makeEdit, patchSchema, type DocumentPatch, type Edit } from './edits';
export { emptyHistory, newestSteps, redo, remember, undo, without, type History } from './history';
export { intoRange } from './intoRange';
export { nextName } from './nextName';
export { isColorSlot, layersOf, lowestLayer, madeMap, mapMatrix, newMap, newPictureMap } from './maps';
export { mergeEdits, type Meeting } from './mergeEdits';
export { meshAssets, meshKey, meshOfModel } from './meshRef';
export { checkDocument, openDocument } from './migrations';
export { childrenByParent, idsInOrder, inOrder, lastOrder, shotsInOrder, subtree } from './ordering';
export { footageKey, footageOf, pictureFiles, tracedFile, type PictureFile } from './pictureFiles';
export { plainLayerName } from './plainLayerName';
export { UserProblem } from './problem';
export {
  AIR,
  BEHIND,
  CAMERA,
  CLIP,
  FINISH,
  FLOOR,
  GRADIENT,
  LAYERS,
  LIGHT,
  TRACK,
  BLENDS,
  LABEL,
  MAP,
  PROJECTIONS,
  SOURCE,
  defaultsOf,
  nearest,
  PICTURE,
  propertyAt,
  REEL,
  RENDER,
  SKY,
  SOUND,
  SURROUNDINGS,
  TITLE,
  shapeOf,
  type Property,
  type Table,
  type ValueKind,
} from './properties';
export { newId } from './properties/ids';
export { LIMITS } from './properties/limits';
export type { Value } from './properties/value';
export { entityName, propertyKind, readProperty, writeProperty, type PropertyKind } from './propertyPaths';
export { sameFinish } from './sameFinish';
export { sceneDigest } from './sceneDigest';
export { sayNumber } from './sayNumber';
export {
  cameraSchema,
  footageSchema,
  documentSchema,
  FINDINGS,
  finishSchema,
  keySchema,
  lightSchema,
  lookSchema,
  MAP_SLOTS,
  mapSchema,
  nodeSchema,
  recipeSchema,
  soundFileSchema,
  SCHEMA_VERSION,
  type Asset,
  type Camera,
  type Clip,
  type ClipSource,
  type Copies,
  type Finding,
  type Finish,
  type Footage,
  type FinishMap,
  type Colourway,
  type Label,
  type Key,
  type Light,
  type Look,
  type MapSlot,
  type Mend,
  type MeshRef,
  type Move,
  type MoveKind,
  type Pace,
  type ProjectDocument,
  type Recipe,
  type Reel,
  type RenderWay,
  type SceneNode,
  type SetPiece,
  type Shot,
  type Sound,
  type SoundFile,
  type StudioSet,
  type Title,
  type Vector3,
} from './schema';
export { PACES, type PaceKind } from './properties/pace';
export { frameCount, heldFrame, renderedFrames, type TakeFrames } from './takeFrames';
export { tellDifferences, type Difference } from './tellDifferences';
export { lookOf } from './lookOf';
