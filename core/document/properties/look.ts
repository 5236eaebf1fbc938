import { choice, kelvin, number, share, still, unseen, type Property, type Table } from './property';

/** Looks are developed from frames: the tracer reads nothing of them, and nothing of them moves. */
const laid = <P extends Property>(of: P): P => unseen(still(of));
const times = (min: number) => number(1, { unit: '×', min, max: 4, step: 0.01 });

export const LOOK = {
  /** At 0, a luminance of 683 nits becomes full white before the tone curve. */
  exposure: laid(number(0, { unit: 'stops', min: -20, max: 20, step: 0.05 })),
  /** Light of this colour becomes white; 6500 leaves it as it is. */
  balanceKelvin: laid(kelvin(6500)),
  /** From green, -1, to magenta, 1. */
  balanceTint: laid(number(0, { min: -1, max: 1, step: 0.01 })),
  tone: laid(choice(['neutral', 'soft', 'strong', 'trueColor', 'film', 'print', 'wide', 'straight'], 'neutral')),
  /** Powers of display values about the pivot: 1 leaves them. */
  contrast: laid(times(0.1)),
  /** The linear display value that contrast leaves as it is. */
  contrastPivot: laid(number(0.18, { min: 0.01, max: 1, step: 0.01 })),
  saturation: laid(times(0)),
  lookupAmount: laid(share(1)),
  /** How much of the noise is filtered out. */
  denoise: laid(share(0.8)),
  /** How far bright specks, pixels that few samples carry, are weighed down. */
  specks: laid(share(1)),
  bloomAmount: laid(share(0.04)),
  /** Part of the picture's height. */
  bloomRadius: laid(number(0.04, { min: 0.001, max: 0.5, step: 0.005 })),
  bloomThreshold: laid(number(1, { min: 0, max: 100, step: 0.05 })),
  zoomBlur: laid(share(0)),
  fringing: laid(share(0)),
  vignette: laid(share(0)),
  /** Part of the way from the corners to the middle that is darkened. */
  vignetteSize: laid(number(0.6, { min: 0.05, max: 1, step: 0.01 })),
  sharpen: laid(number(0, { min: 0, max: 3, step: 0.02 })),
  grain: laid(share(0)),
  /** Part of the picture's height. */
  grainSize: laid(number(0.0015, { unit: '‰', scale: 0.001, min: 0.0002, max: 0.02, step: 0.1 })),
} satisfies Table;
