import type { Finish, Light } from '../document';
import { LUMENS_PER_WATT, visibleEfficacy } from './photometry';

const SQUARE_MILLIMETRES = 1e-6;

/** Share of a panel's or disc's brightest radiance that it has on average. */
export function gradientMean(light: Pick<Light, 'kind' | 'gradient'>): number {
  // The mean of a² + b² is 2/3 over the square and 1/2 over the disc; see flatRadiance of the kernel.
  return 1 - light.gradient * (light.kind === 'panel' ? 1 / 3 : 1 / 4);
}

/** What one side of the lamp is, in mm². */
export function lampArea({ kind, width, height, radius }: Light): number {
  switch (kind) {
    case 'panel':
      return width * height;
    case 'tube':
      return 2 * Math.PI * radius * width;
    case 'bulb':
      return 4 * Math.PI * radius * radius;
    default:
      return Math.PI * radius * radius;
  }
}

/** ∫ cosine × fade over the cone of a spot: its flux is this times radiance and area. π for the whole half space without fade. */
export function coneFactor({ coneAngle, penumbra }: Pick<Light, 'coneAngle' | 'penumbra'>): number {
  const { inner, outer } = coneCosines({ coneAngle, penumbra });
  // The part without fade in closed form, the fading rim by the midpoint rule.
  const steps = 256;
  const rim = inner - outer;
  let sum = 0;
  for (let k = 0; k < steps; k++) {
    const t = (k + 0.5) / steps;
    sum += ((outer + t * rim) * t * t * (3 - 2 * t) * rim) / steps;
  }
  return Math.PI * (1 - inner * inner) + 2 * Math.PI * sum;
}

/** Cosines of the angles from the axis at which a spot begins to fade and is dark. */
export function coneCosines({ coneAngle, penumbra }: Pick<Light, 'coneAngle' | 'penumbra'>): {
  inner: number;
  outer: number;
} {
  return { outer: Math.cos(coneAngle / 2), inner: Math.cos((coneAngle / 2) * (1 - penumbra)) };
}

/**
 * Luminance of a lamp at its brightest, 1 being 683 nits. A grid takes away from that; a spot's power is that of its bare lamp.
 */
export function lampRadiance(light: Light): number {
  const area = lampArea(light) * SQUARE_MILLIMETRES;
  const half = light.angularSize / 2;
  if (light.kind === 'sun') return light.power / LUMENS_PER_WATT / (Math.PI * Math.sin(half) ** 2);
  const mean = light.kind === 'panel' || light.kind === 'disc' ? gradientMean(light) : 1;
  const perFlux = (light.kind === 'spot' ? coneFactor(light) : Math.PI) * area * mean;
  switch (light.unit) {
    case 'nit':
      return light.power / LUMENS_PER_WATT;
    case 'watt':
      return (light.power * visibleEfficacy(light.kelvin)) / LUMENS_PER_WATT / perFlux;
    case 'candela':
      return light.power / LUMENS_PER_WATT / (facingArea(light) * SQUARE_MILLIMETRES * mean);
    default:
      return light.power / LUMENS_PER_WATT / perFlux;
  }
}

/** What the lamp shows of itself from where it is brightest, in mm². */
export function facingArea(light: Light): number {
  if (light.kind === 'tube') return 2 * light.radius * light.width;
  if (light.kind === 'bulb') return Math.PI * light.radius ** 2;
  return lampArea(light);
}

/** Luminance of a luminous part with `area` mm² on its outer side, 1 being 683 nits. */
export function partRadiance(finish: Finish, glow: number, area: number): number {
  const power = finish.emissionPower * glow;
  if (power <= 0 || area <= 0) return 0;
  if (finish.emissionUnit === 'nit') return power / LUMENS_PER_WATT;
  const lumens = finish.emissionUnit === 'watt' ? power * visibleEfficacy(finish.emissionKelvin) : power;
  const sides = finish.emissionTwoSided ? 2 : 1;
  return lumens / LUMENS_PER_WATT / (Math.PI * area * sides * SQUARE_MILLIMETRES);
}
