import type { Tone } from './tone';

/** Luminance that becomes full white. */
const WHITE = 8;

/** Compresses luminance and keeps the ratio of the channels (Reinhard et al., Photographic Tone Reproduction for Digital Images, 2002, eq. 4). */
export const wide: Tone = {
  title: 'Wide',
  says: 'Holds very bright scenes together: luminance is compressed, hues stay',
  together(color) {
    const luminance = 0.2126 * color[0]! + 0.7152 * color[1]! + 0.0722 * color[2]!;
    if (luminance <= 0) return;
    const scale = (1 + luminance / (WHITE * WHITE)) / (1 + luminance);
    for (let k = 0; k < 3; k++) color[k]! *= scale;
  },
};
