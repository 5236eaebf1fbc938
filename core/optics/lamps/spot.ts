import { KIND_SPOT } from '@zippy/kernel/layout';
import { byRadius, sizedByRadius, type Lamp, type LampKind } from './kind';

/** A round sheet whose light stays within a cone; a grid before it takes away what leaves it aslant. */
export const spot: LampKind = {
  title: 'Spot',
  code: KIND_SPOT,
  begin: { power: 600, radius: 25 },
  proportions: (size) => ({ radius: size / 14 }),
  area: ({ radius }) => Math.PI * radius ** 2,
  spread: coneFactor,
  halves: ({ radius }) => [radius, radius],
  ...byRadius,
  sized: sizedByRadius,
  shape: (lamp) => {
    const { inner, outer } = coneCosines(lamp);
    return { cosInner: inner, cosOuter: outer, grid: lamp.gridAngle > 0 ? Math.tan(lamp.gridAngle) : 0 };
  },
};

/** ∫ cosine × fade over the cone of a spot: its flux is this times radiance and area. π for the whole half space without fade. */
function coneFactor({ coneAngle, penumbra }: Pick<Lamp, 'coneAngle' | 'penumbra'>): number {
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
function coneCosines({ coneAngle, penumbra }: Pick<Lamp, 'coneAngle' | 'penumbra'>): { inner: number; outer: number } {
  return { outer: Math.cos(coneAngle / 2), inner: Math.cos((coneAngle / 2) * (1 - penumbra)) };
}
