/** Colours that a display mixes from: BT.709 with the transfer of sRGB, or Display P3, which has the same transfer and white. */
export const DISPLAYS = ['bt709', 'p3'] as const;
export type Display = (typeof DISPLAYS)[number];

/** Linear Rec. 709 to linear Display P3, both of white D65 (SMPTE EG 432-1 and ITU-R BT.709-6 primaries, through CIE XYZ). */
const TO_P3 = [
  [0.8224621, 0.177538, 0],
  [0.0331941, 0.9668058, 0],
  [0.0170827, 0.0723974, 0.9105199],
] as const;

/** Linear light in the colours of a display: the same where it is BT.709, else a copy. @param light four values a pixel */
export function forDisplay(light: Float32Array, display: Display): Float32Array {
  if (display === 'bt709') return light;
  const out = light.slice();
  for (let at = 0; at < light.length; at += 4)
    for (let k = 0; k < 3; k++)
      out[at + k] = TO_P3[k]![0] * light[at]! + TO_P3[k]![1] * light[at + 1]! + TO_P3[k]![2] * light[at + 2]!;
  return out;
}
