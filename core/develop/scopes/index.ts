export { clipping, type Clipping } from './clipping';
export { histogram, type Histogram } from './histogram';
export { meterExposure } from './meter';
export { LEVELS, type Density, type ShownPicture } from './scope';
export { chroma, vectorscope } from './vectorscope';
export { parade, waveform } from './waveform';
