import type { ProjectDocument } from './schema';

/** A sentence on the first thing that hangs on, or sits in, what is not there, or contains itself; null where all is sound. */
export const referenceFault = (document: ProjectDocument): string | null =>
  findParentFault(document) ?? findCarrierFault(document);

/** A sentence on the first light or camera that hangs on a node which is not there, or null. */
function findCarrierFault({ nodes, lights, cameras }: ProjectDocument): string | null {
  for (const { name, parent } of [...Object.values(lights), ...Object.values(cameras)]) {
    if (parent !== null && !nodes[parent])
      return `"${name}" hangs on something that does not exist. The change was not saved.`;
  }
  return null;
}

/** A sentence on the first node whose parents are missing or run in a circle, or null. */
function findParentFault(document: ProjectDocument): string | null {
  const sound = new Set<string>();
  for (const node of Object.values(document.nodes)) {
    const chain = new Set<string>();
    let at: string | null = node.id;
    while (at !== null && !sound.has(at)) {
      if (chain.has(at))
        return `The group "${document.nodes[at]!.name}" would contain itself. The change was not saved.`;
      chain.add(at);
      const parent: string | null | undefined = document.nodes[at]?.parent;
      if (parent === undefined)
        return `The part "${node.name}" sits in a group that does not exist. The change was not saved.`;
      at = parent;
    }
    for (const link of chain) sound.add(link);
  }
  return null;
}
