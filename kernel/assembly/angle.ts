// Sine, cosine and arcs in single precision, two results for the price of one: the general functions of the standard library
// reduce arguments of any size and cost several times as much. Polynomials after Moshier, Cephes Mathematical Library, 1992.

const HALF_PI: f32 = 1.57079632679;
const QUARTER_PI: f32 = 0.785398163397;
const PI: f32 = 3.14159265358979;
/** Tangent of 22.5 degrees. */
const EIGHTH: f32 = 0.41421356;

/** Results of `turn`. */
export let turnSine: f32 = 0;
export let turnCosine: f32 = 1;

/** Sine and cosine of a share of a full turn; within 3 parts in 10 million for three turns either way. */
export function turn(share: f32): void {
  const quarters = share * 4;
  const whole = nearest<f32>(quarters);
  const r = (quarters - whole) * HALF_PI;
  const r2 = r * r;
  const s = r + r * r2 * (<f32>-0.16666654611 + r2 * (<f32>0.0083321608736 - r2 * <f32>0.00019515295891));
  const c: f32 =
    <f32>1 -
    r2 *
      (<f32>0.5 -
        r2 * (<f32>0.04166664568298827 + r2 * (<f32>-0.001388731625493765 + r2 * <f32>0.00002443315711809948)));
  const quadrant = <i32>whole;
  const across = (quadrant & 1) !== 0;
  const sine = across ? c : s,
    cosine = across ? s : c;
  turnSine = (quadrant & 2) !== 0 ? -sine : sine;
  turnCosine = ((quadrant + 1) & 2) !== 0 ? -cosine : cosine;
}

/** Angle of the point (x, y) from the x axis in radians, -π to π; 0 at the origin. */
export function arc(y: f32, x: f32): f32 {
  const ax = abs(x),
    ay = abs(y);
  const steep = ay > ax;
  const low: f32 = steep ? ax : ay,
    high: f32 = steep ? ay : ax;
  if (high === 0) return 0;
  const wide = low > EIGHTH * high;
  const z = wide ? (low - high) / (low + high) : low / high;
  const z2 = z * z;
  let angle =
    z +
    z *
      z2 *
      (<f32>-0.333329491539 + z2 * (<f32>0.199777106478 + z2 * (<f32>-0.138776856032 + z2 * <f32>0.0805374449538)));
  if (wide) angle += QUARTER_PI;
  if (steep) angle = HALF_PI - angle;
  if (x < 0) angle = PI - angle;
  return y < 0 ? -angle : angle;
}

/** Angle in radians, 0 to π, whose cosine is `c`, which is held between -1 and 1. */
export function arcOfCosine(c: f32): f32 {
  const rest = (<f32>1 - c) * (<f32>1 + c);
  return arc(rest > 0 ? sqrt<f32>(rest) : <f32>0, c);
}
