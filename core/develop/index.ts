export { boxMean } from './boxMean';
export { curveThrough } from './curve';
export { Darkroom } from './darkroom';
export { exrEnd, readExr, readExrHeader, writeExr } from './exr';
export { decodeFrame, encodeFrame, filmFrame, lightLayers, type LinearFrame } from './frame';
export { grade } from './grade';
export { fromHalf, toHalf } from './half';
export { readCube, type LookupTable } from './lookupTable';
export { keptLayers, probeLayers, showLayer, showMatte, type Matte, type Probed } from './keptLayers';
export { layerView, PRODUCT_ALONE, type LayerPicture } from './layers';
export { leavingExr } from './leavingExr';
export { matteId } from './matteId';
export { NoiseFilter } from './noiseFilter';
export { fillOpen, toBytes, toWords } from './quantise';
export { DISPLAYS, forDisplay, type Display } from './primaries';
export { READY_LOOKS, type ReadyLook } from './readyLooks';
export { speckShare } from './specks';
export type { Neighbours } from './steady';
export { TONES, type Tone } from './tones';
export { LearnedFilter, type Network } from './learned/learnedFilter';
export { filterModel, INPUTS } from './learned/network';
export { fileName, NAME_WORDS, patternFault } from './stills/fileName';
export { tagPng } from './stills/tagPng';
export { tagTiff } from './stills/tagTiff';
export { STILL_FORMAT_NAMES, STILL_FORMATS, stillFormat, type StillFormat, type StillFormatName } from './stills';
export {
  chroma,
  clipping,
  histogram,
  LEVELS,
  meterExposure,
  parade,
  vectorscope,
  waveform,
  type Clipping,
  type Density,
  type Histogram,
  type ShownPicture,
} from './scopes';
