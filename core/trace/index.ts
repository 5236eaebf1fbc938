export {
  adaptivePasses,
  developedError,
  FIRST_PASS,
  FIRST_TIMED_PASS,
  markNoisiest,
  markNoisy,
  sampleErrors,
  TIMED_PASSES,
} from './adaptive';
export { averageFilm } from './film';
export { frameIdentity, seedOf } from './identity';
export type { Layer } from './layers';
export type { LoadedFrame } from './loadedFrame';
export { skySun } from './lights';
export { filmNoise, refiningPasses } from './passes';
export { predictTake, PROBE_WIDTH, probeFrames, type Prediction, type Probe } from './predict';
export { RENDER_PRESETS, sameWay } from './presets';
export { SceneMemory } from './scene';
export { defaultRenderSettings, renderSettingsSchema, settingsOfShot, type RenderSettings } from './settings';
export { renderTiles, resetTiles, stopTiles } from './tiles';
