import type { Rgb } from './photometry';
import { LUMENS_PER_WATT } from './photometry';

export interface SkyModel {
  /** Radians of the sun above the horizon. */
  elevation: number;
  turbidity: number;
}

/** Perez coefficients of luminance Y and of the chromaticities x and y at a turbidity (Preetham, Shirley and Smits, appendix A.2). */
const perezCoefficients = (t: number): number[][] => [
  [0.1787 * t - 1.463, -0.3554 * t + 0.4275, -0.0227 * t + 5.3251, 0.1206 * t - 2.5771, -0.067 * t + 0.3703],
  [-0.0193 * t - 0.2592, -0.0665 * t + 0.0008, -0.0004 * t + 0.2125, -0.0641 * t - 0.8989, -0.0033 * t + 0.0452],
  [-0.0167 * t - 0.2608, -0.095 * t + 0.0092, -0.0079 * t + 0.2102, -0.0441 * t - 1.6537, -0.0109 * t + 0.0529],
];

const perez = ([a, b, c, d, e]: number[], cosTheta: number, gamma: number): number =>
  (1 + a! * Math.exp(b! / Math.max(0.01, cosTheta))) * (1 + c! * Math.exp(d! * gamma) + e! * Math.cos(gamma) ** 2);

/** Chromaticity at the zenith from the sun's angle off it. */
function zenithChromaticity(rows: number[][], turbidity: number, angle: number): number {
  const powers = [angle ** 3, angle ** 2, angle, 1];
  return [turbidity ** 2, turbidity, 1].reduce(
    (sum, weight, row) => sum + weight * powers.reduce((inner, p, k) => inner + p * rows[row]![k]!, 0),
    0,
  );
}

const ZENITH_X = [
  [0.00166, -0.00375, 0.00209, 0],
  [-0.02903, 0.06377, -0.03202, 0.00394],
  [0.11693, -0.21196, 0.06052, 0.25886],
];
const ZENITH_Y = [
  [0.00275, -0.0061, 0.00317, 0],
  [-0.04214, 0.0897, -0.04153, 0.00516],
  [0.15346, -0.26756, 0.0667, 0.26688],
];

/**
 * Radiance of a clear sky (Preetham, Shirley and Smits, A Practical Analytic Model for Daylight, 1999).
 * @returns a function from a direction (unit, y up; the sun stands above +z) to linear Rec. 709, 1 being 683 nits
 */
export function skyModel({ elevation, turbidity }: SkyModel): (direction: Rgb) => [number, number, number] {
  const t = turbidity;
  const angle = Math.PI / 2 - elevation;
  const chi = (4 / 9 - t / 120) * (Math.PI - 2 * angle);
  const zenithLuminance = Math.max(50, ((4.0453 * t - 4.971) * Math.tan(chi) - 0.2155 * t + 2.4192) * 1000);
  const [cy, cx, cyy] = perezCoefficients(t) as [number[], number[], number[]];
  const zenith = [zenithLuminance, zenithChromaticity(ZENITH_X, t, angle), zenithChromaticity(ZENITH_Y, t, angle)];
  const base = [cy, cx, cyy].map((c) => perez(c, 1, angle));
  const sun: Rgb = [0, Math.sin(elevation), Math.cos(elevation)];
  return ([dx, dy, dz]) => {
    // Below the horizon the sky's own edge, darkened: the ground that no floor covers.
    const up = Math.max(0, dy);
    const cosGamma = dx * sun[0] + dy * sun[1] + dz * sun[2];
    const gamma = Math.acos(Math.min(1, Math.max(-1, cosGamma)));
    const [luminance, x, y] = [cy, cx, cyy].map((c, k) => (zenith[k]! * perez(c, up, gamma)) / base[k]!) as [
      number,
      number,
      number,
    ];
    const level = (Math.max(0, luminance) / LUMENS_PER_WATT) * (dy < 0 ? 0.3 : 1);
    const [X, Z] = [x / y, (1 - x - y) / y];
    return [
      Math.max(0, level * (3.2404542 * X - 1.5371385 - 0.4985314 * Z)),
      Math.max(0, level * (-0.969266 * X + 1.8760108 + 0.041556 * Z)),
      Math.max(0, level * (0.0556434 * X - 0.2040259 + 1.0572252 * Z)),
    ];
  };
}

/** Lux of the sun on what faces it, after its way through the air, and its temperature in kelvin. */
export function sunLight({ elevation, turbidity }: SkyModel): { lux: number; kelvin: number } {
  // Optical mass of the air (Kasten and Young, 1989) and a haze that grows with turbidity.
  const degrees = (elevation * 180) / Math.PI;
  const mass = 1 / (Math.sin(elevation) + 0.50572 * (degrees + 6.07995) ** -1.6364);
  const lux = 127_500 * Math.exp(-0.15 * mass - 0.04 * (turbidity - 1.7) * mass);
  return { lux, kelvin: Math.max(1800, 5800 - 330 * (mass - 1)) };
}
