// Rough diffuse surfaces (Portsmouth, Kutz and Hill, EON: A practical energy-preserving rough diffuse BRDF, 2024).

const ONE: f32 = 1;

let single: f32 = 1;
let more: f32 = 0;
let mean: f32 = 1;

/** @param across product of the two directions along the surface */
export function openRoughDiffuse(rough: f32, viewZ: f32, lightZ: f32, across: f32): void {
  if (!(rough > 0)) {
    single = 1;
    more = 0;
    mean = 1;
    return;
  }
  const scale = ONE / (ONE + <f32>0.2877934 * rough);
  const slope: f32 = across > 0 ? across / max(lightZ, viewZ) : across;
  single = scale * (ONE + rough * slope);
  const lost = max<f32>(1e-5, ONE - scale * (ONE + <f32>0.072488 * rough));
  mean = ONE - lost;
  more =
    (max<f32>(1e-5, ONE - albedo(viewZ, rough, scale)) * max<f32>(1e-5, ONE - albedo(lightZ, rough, scale))) / lost;
}

function albedo(cosine: f32, rough: f32, scale: f32): f32 {
  const c = ONE - cosine;
  return (
    scale *
    (ONE + rough * c * (<f32>0.0571085289 + c * (<f32>0.491881867 + c * (<f32>-0.332181442 + c * <f32>0.0714429953))))
  );
}

/** Colour of the surface that is open: `base` where it is smooth. */
export function roughDiffuse(base: f32): f32 {
  if (more === 0) return base * single;
  return base * single + ((base * base * mean) / (ONE - base * (ONE - mean))) * more;
}
