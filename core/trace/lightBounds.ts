import type { Light } from '../document';
import { centreOf, type Bounds } from '../geometry';
import { facingArea, lampFrame, lampKind, lampRadiance, lightColor, luminance } from '../optics';
import type { Instance } from './instances';
import type { LightBounds } from './lightTree';

/** What the light tree knows of a lamp. */
export function lampBounds(light: Light): LightBounds {
  const { x, y, z } = lampFrame(light);
  const kind = lampKind(light);
  const reach = [0, 1, 2].map((k) => kind.along(light, x[k]!, y[k]!));
  const shines = luminance(lightColor(light.kelvin, light.tint)) > 0 ? lampRadiance(light) : 0;
  return {
    low: light.position.map((v, k) => v - reach[k]!),
    high: light.position.map((v, k) => v + reach[k]!),
    intensity: shines * facingArea(light),
    axis: [...z],
    cosSpread: kind.around ? -1 : 1,
    cosEmission: kind.shape?.(light).cosOuter ?? 0,
  };
}

/** What the light tree knows of a luminous part. */
export const partBounds = ({ box, intensity }: Instance): LightBounds => ({
  low: [...box.low],
  high: [...box.high],
  intensity,
  axis: [0, 1, 0],
  cosSpread: -1,
  cosEmission: 0,
});

/** Whether the middle of `inner` is in `outer`. */
export const holds = (outer: Bounds, inner: Bounds): boolean =>
  centreOf(inner).every((v, k) => v > outer.low[k]! && v < outer.high[k]!);
