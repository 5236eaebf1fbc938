import type { Finish } from '../document';

export interface Inside {
  /** Colour given at the surface, where there is no depth to give it in. */
  tint: [number, number, number];
  /** Per millimetre: what a ray loses, and the part of it that goes on in another direction. */
  extinction: [number, number, number];
  scattering: [number, number, number];
}

/**
 * What fills a clear solid: it turns white light into `transmissionColor` after `transmissionDepth`, by the law of Beer and
 * Lambert, and scatters `transmissionScatter` on that way. A depth of 0 tints at the surface instead.
 */
export function insideOf(finish: Finish): Inside {
  const { transmissionColor: color, transmissionDepth: depth, transmissionScatter: scatter } = finish;
  if (depth <= 0 || finish.thinWalled) return { tint: color, extinction: [0, 0, 0], scattering: [0, 0, 0] };
  const lost = color.map((part) => -Math.log(Math.min(1, Math.max(1e-4, part))) / depth);
  const scattering = scatter.map((part) => part / depth);
  // Scattering beyond what the colour takes away would need light from nowhere: the colour then loses evenly (OpenPBR 1.1).
  const missing = Math.max(0, ...scattering.map((part, k) => part - lost[k]!));
  return {
    tint: [1, 1, 1],
    extinction: lost.map((part) => part + missing) as [number, number, number],
    scattering: scattering as [number, number, number],
  };
}

/** Cauchy's second coefficient in nm²: index(λ) = A + this / λ². Abbe's number is for the lines d, F and C. */
export function dispersion(finish: Finish): number {
  if (finish.transmissionDispersionScale <= 0) return 0;
  const abbe = finish.transmissionDispersionAbbeNumber / finish.transmissionDispersionScale;
  return (finish.specularIor - 1) / (abbe * (1 / 486.1 ** 2 - 1 / 656.3 ** 2));
}
