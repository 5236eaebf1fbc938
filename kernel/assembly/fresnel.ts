// How much light a smooth boundary reflects: between clear media, on metals, and through a thin film.

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Results of the coloured functions below. */
export let fresnelR: f32 = 0;
export let fresnelG: f32 = 0;
export let fresnelB: f32 = 0;

/** Reflectance of unpolarised light; `eta` is the index behind the surface over the index before it. */
export function fresnelDielectric(cosine: f32, eta: f32): f32 {
  const c = min<f32>(1, abs(cosine));
  const g2 = eta * eta - ONE + c * c;
  if (g2 <= 0) return 1;
  const g = sqrt(g2);
  const a = (g - c) / (g + c);
  const b = (c * (g + c) - 1) / (c * (g - c) + 1);
  return <f32>0.5 * a * a * (ONE + b * b);
}

/** Index whose reflectance at normal incidence is `weight` times that of `eta` (OpenPBR Surface 1.1, specular weight). */
export function weightedIndex(eta: f32, weight: f32): f32 {
  if (weight >= 1) return eta;
  const root = (eta - 1) / (eta + 1);
  const e = sqrt<f32>(max<f32>(0, weight)) * root;
  return (ONE + e) / (ONE - e);
}

/** (1 - 1/7) to the sixth, over which the tint at 82 degrees is measured. */
const F82_EDGE: f32 = 0.056651;

/** One channel of a metal with its own tint at 82 degrees (Kutz, Hašan and Edmondson, 2021). */
function f82(cosine: f32, base: f32, tint: f32): f32 {
  const c = ONE - cosine;
  const c2 = c * c;
  const c5 = c2 * c2 * c;
  const at82 = base + (ONE - base) * <f32>0.46266; // (6/7)^5
  const b = (at82 * (ONE - tint)) / F82_EDGE;
  return max<f32>(0, min<f32>(1, base + (ONE - base) * c5 - b * cosine * c5 * c));
}

export function fresnelMetal(cosine: f32, r: f32, g: f32, b: f32, tintR: f32, tintG: f32, tintB: f32): void {
  const c = max<f32>(0, min<f32>(1, cosine));
  fresnelR = f82(c, r, tintR);
  fresnelG = f82(c, g, tintG);
  fresnelB = f82(c, b, tintB);
}

// Amplitude reflection of one polarisation at the two faces of the film.
let amplitudeS: f32 = 0;
let amplitudeP: f32 = 0;
function amplitudes(cosine: f32, cosineInside: f32, eta: f32): void {
  amplitudeS = (cosine - eta * cosineInside) / (cosine + eta * cosineInside);
  amplitudeP = (cosineInside - eta * cosine) / (cosineInside + eta * cosine);
}

let sensitivityX: f32 = 0;
let sensitivityY: f32 = 0;
let sensitivityZ: f32 = 0;

/**
 * Fourier transform of the observer's response at an optical path difference in nm, as XYZ with white (1, 1, 1) at none
 * (Belcour and Barla, A Practical Extension to Microfacet Theory for the Modeling of Varying Iridescence, 2017).
 */
function sensitivity(difference: f32): void {
  const phase = TWO * PI * difference * <f32>1e-3; // wave numbers are per micrometre
  const p = phase * phase;
  sensitivityX =
    <f32>0.8462 * Mathf.exp(<f32>-0.0043278 * p) * Mathf.cos(<f32>1.681 * phase) +
    <f32>0.1538 * Mathf.exp(<f32>-0.0045282 * p) * Mathf.cos(<f32>2.2399 * phase);
  sensitivityY = Mathf.exp(<f32>-0.0093046 * p) * Mathf.cos(<f32>1.7953 * phase);
  sensitivityZ = Mathf.exp(<f32>-0.0066121 * p) * Mathf.cos(<f32>2.2084 * phase);
}

/**
 * Reflectance through a film of `thickness` nm and index `film` before a base of index `baseIndex`, both over the index before
 * them. Airy's sum over the bounces inside, as a Fourier series in the phase:
 * R = 1 - K (1 + 2 Σ (-r1 r2)^m cos mφ) with K = (1 - r1²)(1 - r2²) / (1 - r1² r2²).
 */
export function fresnelFilm(cosine: f32, film: f32, thickness: f32, baseIndex: f32): void {
  const c = max<f32>(0.001, min<f32>(1, abs(cosine)));
  const inside2 = ONE - (ONE - c * c) / (film * film);
  const below2 = ONE - (ONE - c * c) / (baseIndex * baseIndex);
  if (inside2 <= 0 || below2 <= 0) {
    fresnelR = 1;
    fresnelG = 1;
    fresnelB = 1;
    return;
  }
  const ci = sqrt<f32>(inside2),
    cb = sqrt<f32>(below2);
  const difference = TWO * film * thickness * ci;
  let x: f32 = 0,
    y: f32 = 0,
    z: f32 = 0;
  for (let polarisation = 0; polarisation < 2; polarisation++) {
    amplitudes(c, ci, film);
    const top: f32 = polarisation === 0 ? amplitudeS : amplitudeP;
    amplitudes(ci, cb, baseIndex / film);
    const bottom: f32 = polarisation === 0 ? amplitudeS : amplitudeP;
    const k = ((ONE - top * top) * (ONE - bottom * bottom)) / max<f32>(1e-6, ONE - top * top * bottom * bottom);
    x += ONE - k;
    y += ONE - k;
    z += ONE - k;
    let power: f32 = 1;
    // Beyond the third order nothing of the colour is left.
    for (let order = 1; order <= 3; order++) {
      power *= -top * bottom;
      sensitivity(difference * <f32>order);
      x -= TWO * k * power * sensitivityX;
      y -= TWO * k * power * sensitivityY;
      z -= TWO * k * power * sensitivityZ;
    }
  }
  x *= 0.5;
  y *= 0.5;
  z *= 0.5;
  // Equal-energy XYZ with white at (1, 1, 1), adapted to D65, to linear Rec. 709 (ITU-R BT.709-6).
  const dx = x * <f32>0.95047,
    dz = z * <f32>1.08883;
  fresnelR = clampUnit(<f32>3.2404542 * dx - <f32>1.5371385 * y - <f32>0.4985314 * dz);
  fresnelG = clampUnit(<f32>-0.969266 * dx + <f32>1.8760108 * y + <f32>0.041556 * dz);
  fresnelB = clampUnit(<f32>0.0556434 * dx - <f32>0.2040259 * y + <f32>1.0572252 * dz);
}

function clampUnit(v: f32): f32 {
  return max<f32>(0, min<f32>(1, v));
}
