import type { Finish } from '../document';
import { facingArea, lampKind, type KindedLamp } from './lamps';
import { LUMENS_PER_WATT, visibleEfficacy } from './photometry';

const SQUARE_MILLIMETRES = 1e-6;

/**
 * Luminance of a lamp at its brightest, 1 being 683 nits. A grid takes away from that; a spot's power is that of its bare lamp.
 */
export function lampRadiance(lamp: KindedLamp): number {
  const kind = lampKind(lamp);
  const power = lamp.power / LUMENS_PER_WATT;
  if (kind.far) return power / (Math.PI * Math.sin(lamp.angularSize / 2) ** 2);
  const mean = kind.mean?.(lamp) ?? 1;
  const perFlux = (kind.spread?.(lamp) ?? Math.PI) * kind.area(lamp) * SQUARE_MILLIMETRES * mean;
  switch (lamp.unit) {
    case 'nit':
      return power;
    case 'watt':
      return (power * visibleEfficacy(lamp.kelvin)) / perFlux;
    case 'candela':
      return power / (facingArea(lamp) * SQUARE_MILLIMETRES * mean);
    default:
      return power / perFlux;
  }
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
