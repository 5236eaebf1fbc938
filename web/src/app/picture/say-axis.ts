import type { FittedAxis } from '@zippy/core/geometry';
import type { Mark } from './stage';

/** An axis in the world in words, with how true the fit is, and as what points it out. */
export function sayAxis(axis: FittedAxis | null): { mark: Mark | null; said: string } {
  if (!axis) return { mark: null, said: 'Not a round face' };
  const kind = { cylinder: 'Cylinder', cone: 'Cone', flat: 'Round flat face' }[axis.kind];
  const slope = axis.kind === 'cone' ? `, ${Math.abs((axis.slope * 180) / Math.PI).toFixed(1)}° steep` : '';
  return {
    mark: {
      point: axis.point,
      line: { direction: axis.direction, length: Math.max(10, axis.radius * 5) },
      ring: { axis: axis.direction, radius: axis.radius },
    },
    said: `${kind}, radius ${axis.radius.toFixed(2)} mm${slope}, within ${axis.residual.toFixed(3)} mm`,
  };
}
