import type { LampView } from './view';

export const spot: LampView = {
  words: 'cone beam focused',
  fields: (own) => [
    own('radius', 'Radius'),
    own('coneAngle', 'Cone'),
    own('penumbra', 'Soft edge'),
    own('gridAngle', 'Grid'),
  ],
};
