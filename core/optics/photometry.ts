import { OBSERVER, OBSERVER_FIRST, OBSERVER_STEP } from './observer';

/** Lumens per watt at the peak of the eye's response: one unit of radiance in the tracer is 683 nits. (SI, 2019.) */
export const LUMENS_PER_WATT = 683;

export type Rgb = readonly [number, number, number];

/** Relative luminance of linear Rec. 709. (ITU-R BT.709-6.) */
export const luminance = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Colour of light with luminance 1: that of a black body at `kelvin` seen through `tint`; black where nothing is left of it. */
export function lightColor(kelvin: number, tint: Rgb): [number, number, number] {
  const body = blackBody(kelvin);
  const color: Rgb = [body[0] * tint[0], body[1] * tint[1], body[2] * tint[2]];
  const y = luminance(color);
  return y > 1e-9 ? [color[0] / y, color[1] / y, color[2] / y] : [0, 0, 0];
}

/**
 * Linear Rec. 709 of a black body, luminance 1. Below some 1,900 K its blue would be below nothing: there it is 0, as light cannot be
 * taken away.
 */
export function blackBody(kelvin: number): [number, number, number] {
  const [x, y, z] = blackBodyXyz(kelvin);
  const rgb: Rgb = [
    Math.max(0, (3.2404542 * x - 1.5371385 * y - 0.4985314 * z) / y),
    Math.max(0, (-0.969266 * x + 1.8760108 * y + 0.041556 * z) / y),
    Math.max(0, (0.0556434 * x - 0.2040259 * y + 1.0572252 * z) / y),
  ];
  const total = luminance(rgb);
  return [rgb[0] / total, rgb[1] / total, rgb[2] / total];
}

/** Tristimulus values of a black body, relative: Planck's law weighed with the CIE 1931 observer. */
export function blackBodyXyz(kelvin: number): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  OBSERVER.forEach((response, k) => {
    const power = planck(OBSERVER_FIRST + k * OBSERVER_STEP, kelvin);
    for (let c = 0; c < 3; c++) sum[c]! += power * response[c]!;
  });
  return sum;
}

/** Lumens of a watt of visible radiation (380 to 780 nm) of a black body at `kelvin`. */
export function visibleEfficacy(kelvin: number): number {
  // By trapezoids of a nanometre: what a cool body sends rises steeply to the end of the visible.
  const last = OBSERVER_FIRST + (OBSERVER.length - 1) * OBSERVER_STEP;
  let sent = (planck(OBSERVER_FIRST, kelvin) + planck(last, kelvin)) / 2;
  for (let nm = OBSERVER_FIRST + 1; nm < last; nm++) sent += planck(nm, kelvin);
  return (LUMENS_PER_WATT * OBSERVER_STEP * blackBodyXyz(kelvin)[1]) / sent;
}

/** Spectral radiance of a black body, relative (Planck, 1901). */
export function planck(nm: number, kelvin: number): number {
  const metres = nm * 1e-9;
  return 1 / (metres ** 5 * (Math.exp(0.0143877688 / (metres * kelvin)) - 1));
}
