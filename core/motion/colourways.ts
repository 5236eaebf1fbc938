import type { ProjectDocument, SceneNode, Shot } from '../document';

/** What parts wear in the variant of the product that a shot shows. @returns the id of a finish, by a node */
export function dressedBy(
  { colourways, colourway, finishes }: Pick<ProjectDocument, 'colourways' | 'colourway' | 'finishes'>,
  shot: Shot | null,
): (node: Pick<SceneNode, 'id' | 'finish'>) => string | null {
  const shown = shot?.colourway ?? colourway;
  const wears = shown === null ? undefined : colourways[shown]?.wears;
  if (!wears) return ({ finish }) => finish;
  // A finish that is gone leaves what is below it.
  const known = (finish: string | undefined) => (finish !== undefined && finishes[finish] ? finish : undefined);
  return ({ id, finish }) => known(wears[id]) ?? (finish === null ? undefined : known(wears[finish])) ?? finish;
}
