import type { Finish } from '../document';

/**
 * Absorption per millimetre of a clear solid that turns white light into `transmissionColor` after `transmissionDepth`,
 * by the law of Beer and Lambert. A depth of 0 tints at the surface instead and absorbs nothing inside.
 */
export function absorption(finish: Finish): [number, number, number] {
  if (finish.transmissionDepth <= 0) return [0, 0, 0];
  return finish.transmissionColor.map(
    (part) => -Math.log(Math.min(1, Math.max(1e-4, part))) / finish.transmissionDepth,
  ) as [number, number, number];
}
