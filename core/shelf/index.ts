import type { ShelfFinish } from './entry';
import { glasses } from './glass';
import { lenses, lights, screens, special } from './lights';
import { liquids } from './liquids';
import { metals } from './metals';
import { ceramics, papers, stones, waxes, woods } from './natural';
import { paints } from './paints';
import { plastics } from './plastics';
import { fabrics, leathers, rubbers } from './soft';

export type { ShelfFinish } from './entry';
export { SAMPLE_ASPECT, sampleLook, sampleMeshes, sampleScene, type SampleGround } from './sampleScene';

/** Finishes to start from, by what they are made of. */
export const FINISH_SHELF: readonly { family: string; finishes: readonly ShelfFinish[] }[] = [
  { family: 'Paint', finishes: paints },
  { family: 'Plastic', finishes: plastics },
  { family: 'Metal', finishes: metals },
  { family: 'Glass', finishes: glasses },
  { family: 'Rubber', finishes: rubbers },
  { family: 'Leather', finishes: leathers },
  { family: 'Fabric', finishes: fabrics },
  { family: 'Wood', finishes: woods },
  { family: 'Ceramic', finishes: ceramics },
  { family: 'Wax', finishes: waxes },
  { family: 'Stone', finishes: stones },
  { family: 'Paper', finishes: papers },
  { family: 'Liquid', finishes: liquids },
  { family: 'Lamp lens', finishes: lenses },
  { family: 'Light', finishes: lights },
  { family: 'Screen', finishes: screens },
  { family: 'Mirror and film', finishes: special },
];
