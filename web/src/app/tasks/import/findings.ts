import { sayNumber, type Finding, type Mend } from '@zippy/core/document';

/** What was found in meshes, for people: of one, and of several. */
const FOUND: Record<Finding, [one: string, many: string]> = {
  range: ['triangle named corners that do not exist and was left out', 'triangles named corners that do not exist and were left out'],
  infinite: ['triangle had corners without a finite place and was left out', 'triangles had corners without a finite place and were left out'],
  flat: ['triangle without area was left out', 'triangles without area were left out'],
  duplicates: ['triangle was there twice', 'triangles were there twice'],
  mixed: ['triangle faced otherwise than its neighbours', 'triangles faced otherwise than their neighbours'],
  inverted: ['triangle was inside out', 'triangles were inside out'],
  unwelded: ['corner stood on another alike', 'corners stood on another alike'],
  normals: ['normal was missing or pointed inwards', 'normals were missing or pointed inwards'],
  open: ['edge is open: nothing to mend, but glass and liquids want closed bodies', 'edges are open: nothing to mend, but glass and liquids want closed bodies'],
}; // prettier-ignore

/** What a mend did. */
const DONE: Record<Mend, string> = {
  duplicates: 'left out',
  orientation: 'turned over',
  weld: 'joined',
  normals: 'made anew',
};

/** A finding as a sentence without its end; with what the mend did about it, where one did. */
export function sayFinding(finding: Finding, count: number, mend?: Mend | null): string {
  const one = count === 1;
  const done = mend ? ` and ${one ? 'was' : 'were'} ${DONE[mend]}` : '';
  return `${sayNumber(count)} ${FOUND[finding][one ? 0 : 1]}${done}`;
}
