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
 * Linear Rec. 709 of a black body, luminance 1, negative parts cut off: Planck's law weighed with the CIE 1931 observer in
 * the form of Wyman, Sloan and Shirley, Simple Analytic Approximations to the CIE XYZ Color Matching Functions, 2013.
 */
export function blackBody(kelvin: number): [number, number, number] {
  let x = 0;
  let y = 0;
  let z = 0;
  for (let nm = 380; nm <= 780; nm += 5) {
    const power = planck(nm, kelvin);
    x +=
      power *
      (bell(nm, 1.056, 599.8, 37.9, 31.0) + bell(nm, 0.362, 442, 16, 26.7) - bell(nm, 0.065, 501.1, 20.4, 26.2));
    y += power * photopic(nm);
    z += power * (bell(nm, 1.217, 437, 11.8, 36) + bell(nm, 0.681, 459, 26, 13.8));
  }
  const rgb: Rgb = [
    Math.max(0, (3.2404542 * x - 1.5371385 * y - 0.4985314 * z) / y),
    Math.max(0, (-0.969266 * x + 1.8760108 * y + 0.041556 * z) / y),
    Math.max(0, (0.0556434 * x - 0.2040259 * y + 1.0572252 * z) / y),
  ];
  const total = luminance(rgb);
  return [rgb[0] / total, rgb[1] / total, rgb[2] / total];
}

/** Spectral radiance of a black body, relative (Planck, 1901). */
export function planck(nm: number, kelvin: number): number {
  const metres = nm * 1e-9;
  return 1 / (metres ** 5 * (Math.exp(0.0143877688 / (metres * kelvin)) - 1));
}

/** The eye's response by day: the y function of the CIE 1931 observer, 1 at its peak. */
export const photopic = (nm: number): number => bell(nm, 0.821, 568.8, 46.9, 40.5) + bell(nm, 0.286, 530.9, 16.3, 31.1);

function bell(nm: number, height: number, centre: number, left: number, right: number): number {
  const t = (nm - centre) / (nm < centre ? left : right);
  return height * Math.exp(-0.5 * t * t);
}
