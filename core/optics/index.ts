export { dispersion, insideOf } from './absorption';
export { writeBack } from './balance';
export { decodeSrgb, encodeSrgb, hexFromLinear, linearFromHex } from './color';
export { facingArea, LAMP_KINDS, lampFrame, lampKind, shiningLamp } from './lamps';
export { circleOfConfusion, lensRadius, tanHalfWidth } from './lens';
export {
  aboutSource,
  MADE_SOURCES,
  MAP_SOURCES,
  newFootage,
  newSource,
  pictureOfSource,
  type MadeSourceKind,
  type MapSource,
  type MapSourceKind,
} from './maps';
export { OBSERVER } from './observer';
export { blackBody, blackBodyXyz, lightColor, LUMENS_PER_WATT, luminance, planck, visibleEfficacy } from './photometry';
export { lampRadiance, partRadiance } from './radiance';
export { skyModel, sunLight } from './skyModel';
export {
  gradeSurroundings,
  gradientSurroundings,
  meetSurroundings,
  mirrorSurroundings,
  paintSurroundings,
  placeOnPicture,
  plainSurroundings,
  shrink,
  surroundingsGain,
  turnSurroundings,
  type SurroundingsPicture,
} from './surroundings';
export { harmonics, irradianceHarmonics, REFLECTION_BLURS, reflectionLevels } from './surroundingsLight';
export { SHINES, shineOn, type SeenPlace, type Shine } from './shineOn';
export { spreadAlong } from './sweep';
export { freeStation, placeAbout, stationAt, STATIONS, type Lit, type StationName } from './stations';
