import type { Tone } from './tone';

/** As a cinema print: deep shadows, early highlights (K. Narkowicz, ACES Filmic Tone Mapping Curve, 2016), at the exposure of its fit. */
export const print: Tone = {
  title: 'Print',
  says: 'As a cinema print: deep shadows, strong contrast, bright tones that fade to white',
  each(light) {
    const x = 0.6 * Math.max(0, light);
    return (x * (2.51 * x + 0.03)) / (x * (2.43 * x + 0.59) + 0.14);
  },
};
