import type { Finding, Mend } from '@zippy/core/document';

/** What was found in meshes, for people; `count` of what it counts. */
export const FINDING_TEXT: Record<Finding, (count: string) => string> = {
  range: (count) => `${count} triangles named corners that do not exist and were left out`,
  infinite: (count) => `${count} triangles had corners without a finite place and were left out`,
  flat: (count) => `${count} triangles without area were left out`,
  duplicates: (count) => `${count} triangles were there twice`,
  mixed: (count) => `${count} triangles faced otherwise than their neighbours`,
  inverted: (count) => `${count} triangles were inside out`,
  unwelded: (count) => `${count} corners stood on another alike`,
  normals: (count) => `${count} normals were missing or pointed inwards`,
  open: (count) => `${count} edges are open: nothing to mend, but glass and liquids want closed bodies`,
};

/** What a mend did. */
export const MEND_TEXT: Record<Mend, string> = {
  duplicates: 'left out',
  orientation: 'turned over',
  weld: 'joined',
  normals: 'made anew',
};
