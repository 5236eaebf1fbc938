import { grade } from '../grade';
import type { LayerSource } from './layer';

/** Light of three channels alone, exposed and toned as the look says; it is open where nothing is. */
export function developLight(source: LayerSource, channels: readonly string[]): Float32Array {
  const light = new Float32Array(source.width * source.height * 4).fill(1);
  channels.forEach((name, k) => {
    const plane = source.channel(name)!;
    for (let at = 0; at < plane.length; at++) light[at * 4 + k] = plane[at]!;
  });
  return grade(light, source.look, null);
}
