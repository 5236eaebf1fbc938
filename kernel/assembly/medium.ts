// What fills space: fog outside, absorbing or cloudy matter inside solids, and what lies under the surface of wax and skin.

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Share of scattered light a steradian gets at a cosine from straight on (Henyey and Greenstein, 1941); also its density. */
export function phase(cosine: f32, g: f32): f32 {
  const d = ONE + g * g - TWO * g * cosine;
  return (ONE - g * g) / (<f32>4 * PI * d * sqrt<f32>(max<f32>(1e-9, d)));
}

/** Cosine from straight on, chosen by `phase`. */
export function samplePhaseCosine(g: f32, u: f32): f32 {
  if (abs(g) < 1e-3) return ONE - TWO * u;
  const s = (ONE - g * g) / (ONE - g + TWO * g * u);
  return max<f32>(-1, min<f32>(1, (ONE + g * g - s * s) / (TWO * g)));
}
