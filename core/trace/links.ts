import * as L from '@zippy/kernel/layout';
import type { Light } from '../document';
import type { PartState } from '../motion';

/** Where links began in names of frames. */
const FIRST_LINK = 8;

/** Which lights light which parts, as bits of their flags. */
export interface Links {
  /** The bit of a light; 0 where it lights all parts. */
  of(light: Light): number;
  /** The bits of a part; null is what is no part, such as the floor. */
  on(part: PartState | null): number;
}

/**
 * Bits for lights that do not light all parts. Lights with the same parts share one; beyond the most, lights light all parts again.
 * @param lights with all nodes that they name, those below others too
 */
export function lightLinks(lights: readonly Light[]): Links {
  const bits = new Map<string, { bit: number; reaches: Light['reaches']; parts: ReadonlySet<string> }>();
  const keyOf = ({ reaches, parts }: Light): string => `${reaches} ${[...parts].sort().join(' ')}`;
  for (const light of lights) {
    if (light.reaches === 'all' || bits.has(keyOf(light)) || bits.size >= L.MOST_LINKS) continue;
    const bit = 2 ** (L.LINKS_SHIFT + bits.size);
    bits.set(keyOf(light), { bit, reaches: light.reaches, parts: new Set(light.parts) });
  }
  const lit = [...bits.values()];
  return {
    of: (light) => (light.reaches === 'all' ? 0 : (bits.get(keyOf(light))?.bit ?? 0)),
    on: (part) =>
      lit.reduce((sum, { bit, reaches, parts }) => {
        const named = part !== null && parts.has(part.node);
        return (reaches === 'only') === named ? sum + bit : sum;
      }, 0),
  };
}

/** Flags of a part that some rays go through. */
const seenFlags = ({ visibleToCamera, visibleInMirrors, castsShadows }: PartState['seen']): number =>
  (visibleToCamera ? 0 : L.INSTANCE_UNSEEN) |
  (visibleInMirrors ? 0 : L.INSTANCE_UNMIRRORED) |
  (castsShadows ? 0 : L.INSTANCE_SHADOWLESS);

/** Flags by which a part is seen, and what it is to what is seen behind. */
export const partFlags = (seen: PartState['seen']): number =>
  seenFlags(seen) |
  (seen.ofPlate === 'no' ? 0 : L.INSTANCE_CUT) |
  (seen.ofPlate === 'hides' ? L.INSTANCE_HIDES : 0) |
  (seen.ofPlate === 'catches' ? L.INSTANCE_CATCHES : 0);

/** The same for names of frames, with the links that it has: numbers that stay whatever room the kernel gives to each. */
export const namedFlags = (seen: PartState['seen'], links: number): number[] => {
  const flags = seenFlags(seen) + namedLink(links);
  if (seen.ofPlate !== 'no') return [flags, seen.ofPlate === 'hides' ? 1 : 2];
  return flags === 0 ? [] : [flags];
};

/** Link of a light for names of frames. */
export const namedLink = (link: number): number => link * 2 ** (FIRST_LINK - L.LINKS_SHIFT);
