import {
  determinant,
  invertTransform,
  normalize,
  transformDirection,
  transformPoint,
  type FittedAxis,
  type Transform,
} from '@zippy/core/geometry';
import type { PickedPlace, Picking } from '../store/picking';
import type { Mark } from './figures';
import type { MeshLibrary } from '../meshes/mesh-library';
import type { Pick } from './stage';

/** What is under the pointer: place and axis in the world, what to point out and how to say it. */
export interface Surveyed {
  place: PickedPlace;
  mark: Mark | null;
  said: string;
}

/** How near in pixels corners, middles and round edges draw a picked place to them. */
const SNAP_PIXELS = 12;

const SAID = { corner: 'Corner', middle: 'Middle of an edge', circle: 'Centre of a round edge', surface: 'Surface' };

/**
 * Takes a closer look at what was picked.
 * @param name of the part that was picked
 * @returns null where the part is flattened to nothing
 */
export async function surveyPick(
  library: { survey: MeshLibrary['survey'] },
  hit: Pick,
  kind: Picking['kind'],
  name: string,
): Promise<Surveyed | null> {
  if (kind === 'part')
    return { place: { node: hit.node, point: hit.point, normal: hit.normal, axis: null }, mark: null, said: name };
  const inverse = invertTransform(hit.drawn);
  if (!inverse) return null;
  const grow = Math.cbrt(Math.abs(determinant(hit.transform)));
  const reach = kind === 'surface' ? 0 : (SNAP_PIXELS * hit.pixel) / grow;
  const { snapped, axis } = await library.survey(hit.mesh, hit.triangle, transformPoint(inverse, hit.point), reach);
  const place = {
    node: hit.node,
    point: transformPoint(hit.transform, snapped.point),
    normal: hit.normal,
    axis: axis && axisIn(hit.transform, axis, grow),
  };
  // What is pointed out lies on what is seen, which may be drawn apart from where it stands.
  if (kind === 'axis') return { place, ...sayAxis(axis && axisIn(hit.drawn, axis, grow)) };
  const ring = snapped.circle && {
    axis: normalize(transformDirection(hit.drawn, snapped.circle.axis)),
    radius: snapped.circle.radius * grow,
  };
  return {
    place,
    mark: { point: transformPoint(hit.drawn, snapped.point), ...(ring ? { ring } : {}) },
    said: `${SAID[snapped.kind]}${ring ? `, radius ${ring.radius.toFixed(2)} mm` : ''} · ${name}`,
  };
}

const axisIn = (m: Transform, axis: FittedAxis, grow: number): FittedAxis => ({
  ...axis,
  point: transformPoint(m, axis.point),
  direction: normalize(transformDirection(m, axis.direction)),
  radius: axis.radius * grow,
  residual: axis.residual * grow,
});

/** An axis in the world in words, with how true the fit is, and as what points it out. */
function sayAxis(axis: FittedAxis | null): { mark: Mark | null; said: string } {
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
