export { readCameraCsv, writeCameraCsv } from './cameras/cameraCsv';
export { writeCameraGlb } from './cameras/cameraGlb';
export { cameraOfSamples, sampleCamera, type CameraSample } from './cameras/cameraSamples';
export { readColmap } from './cameras/colmap';
export { packPosesColmap, writePosesColmap, writePosesJson, type PosedPictures } from './cameras/poses';
export { alongTracks, placeAlong, type ModelAlong } from './along';
export { deepPicture, MOST_DEEP_PIXELS, readDeepFile, type DeepPicture } from './deepPicture';
export { fileTessellation, readCad, TESSELLATIONS, type CadKernel, type Tessellation } from './cad';
export { isFloatFile } from './floatFile';
export { fitStage, type Product } from './fitStage';
export { ACCEPTED, detectFormat, FORMAT_LIST, MOST_FILE_BYTES } from './format';
export { readGlb } from './glb';
export { leftOutOfMaterialX } from './materialX/leftOut';
export { MEND_OF, mendMesh } from './mend';
export { readMeshesGlb, writeMeshesGlb } from './meshesGlb';
export { UNITS, type Model, type ModelFinish, type ModelPicture, type Unit, type UpAxis } from './model';
export { readObj } from './obj';
export { MOST_PICTURE_PIXELS, readPicture } from './picture';
export { importedFinish, modelTree, placeModel, type ModelTree, type Placement, type Standing } from './place';
export { meshPortrait, modelPortrait } from './portrait';
export { mendModel, mergeModel } from './prepare';
export { applyRevision, presentParts, treeParts, type PresentPart } from './revision';
export {
  matchParts,
  rematch,
  stateOfMatch,
  type RevisionMatch,
  type RevisionPart,
  type RevisionState,
} from './revisionMatch';
export { writeSceneGlb } from './sceneGlb';
export { readSurroundings } from './sky';
export { groupFiles, isFinishFile } from './sources';
export { readStl } from './stl';
export { modelBounds, modelTransforms, normalizeModel, summarize, triangleCount, type ModelSummary } from './summary';
