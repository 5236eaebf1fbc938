export { adaptivePasses, FIRST_PASS, markNoisy, sampleErrors } from './adaptive';
export { allocateSamples, nextAverage, PILOT, sampleRounds } from './allocation';
export { firstPass, frameProgress, keepFrame, nextPass, resumeFrame, type Interrupted, type Pass } from './nextPass';
export { averageFilm } from './film';
export { filmBeyond, frameBytes } from './frameBytes';
export { frameIdentity, seedOf } from './identity';
export type { Layer } from './layers';
export type { LoadedFrame } from './loadedFrame';
export { skySun } from './lights';
export { finishMaps, writeMap } from './maps';
export { filmNoise, refiningPasses } from './passes';
export { predictTake, PROBE_WIDTH, probeFrames, type Prediction, type Probe } from './predict';
export { RENDER_PRESETS, sameWay } from './presets';
export { SceneMemory } from './scene';
export {
  defaultRenderSettings,
  exposureOf,
  renderSettingsSchema,
  settingsOfShot,
  type RenderSettings,
} from './settings';
export { renderTiles, resetTiles, stopTiles, takenTiles } from './tiles';
