import type { Tone } from './tone';

/** Where compression begins, with the reflection of 4 % taken off, and how fast colours above it lose their colour. */
const COMPRESSED_FROM = 0.8 - 0.04;
const DESATURATION = 0.15;
/** What a plain surface reflects besides its colour. */
const REFLECTED = 0.04;

/**
 * Shows the base colours of a product lit by neutral light as they are (The Khronos Group, PBR Neutral Tone Mapping, 2024): what a
 * surface reflects white is taken off the dark end, and only highlights are compressed, towards white.
 */
export const trueColor: Tone = {
  title: 'True colours',
  says: 'Base colours under neutral light come out as they were set; only highlights are compressed',
  together(color) {
    const least = Math.min(color[0]!, color[1]!, color[2]!);
    const offset = least < 2 * REFLECTED ? least - (least * least) / (4 * REFLECTED) : REFLECTED;
    for (let k = 0; k < 3; k++) color[k]! -= offset;
    const peak = Math.max(color[0]!, color[1]!, color[2]!);
    if (peak < COMPRESSED_FROM) return;
    const rest = 1 - COMPRESSED_FROM;
    const pressed = 1 - (rest * rest) / (peak + rest - COMPRESSED_FROM);
    const white = 1 - 1 / (DESATURATION * (peak - pressed) + 1);
    for (let k = 0; k < 3; k++) {
      const scaled = (color[k]! * pressed) / peak;
      color[k] = scaled + (pressed - scaled) * white;
    }
  },
};
