import { LIMITS, sayNumber, UserProblem, type Asset, type Finding, type Mend, type Recipe } from '../document';
import { IDENTITY, joinMeshes, pickFaces, transformMesh, type TriangleMesh } from '../geometry';
import { alongInWorld } from './along';
import { mendMesh } from './mend';
import type { Model, ModelNode } from './model';
import { modelTransforms, triangleCount } from './summary';

const MOST_TRIANGLES = 20_000_000;

/** Counts of what was found, by finding and by the number of the mesh. */
export type Found = Asset['found'];

/** Parts that wear one finish as one, or all parts as one; in the world's axes, so that nothing moves. */
export function mergeModel(model: Model, merge: Recipe['merge']): Model {
  if (merge === 'parts') return model;
  const world = modelTransforms(model);
  const groups = new Map<number | null, { names: string[]; meshes: TriangleMesh[]; joined: number }>();
  const triangles = new Map<number | null, number>();
  model.nodes.forEach((node, k) => {
    if (node.mesh === null) return;
    const whole = model.meshes[node.mesh]!;
    const mesh = transformMesh(node.faces ? pickFaces(whole, node.faces) : whole, world[k]!);
    const key = merge === 'all' ? null : node.finish;
    const group = groups.get(key) ?? { names: [], meshes: [], joined: 0 };
    group.names.push(node.name);
    group.meshes.push(mesh);
    group.joined += model.joined?.[node.mesh] ?? 0;
    groups.set(key, group);
    triangles.set(node.finish, (triangles.get(node.finish) ?? 0) + mesh.indices.length / 3);
  });
  // One part can wear one finish: that of the most triangles.
  const most = [...triangles].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  const meshes: TriangleMesh[] = [];
  const nodes: ModelNode[] = [...groups].map(([finish, { names, meshes: joined }]) => ({
    name:
      names.length === 1 ? names[0]! : `${model.finishes[finish ?? -1]?.name || names[0]} and ${names.length - 1} more`,
    parent: -1,
    transform: IDENTITY,
    mesh: meshes.push(joinMeshes(joined)) - 1,
    finish: merge === 'all' ? most : finish,
  }));
  // Cameras and lights stay where they were; what moved the parts that are one now has nothing to move.
  const joined = Object.fromEntries([...groups.values()].map((group, mesh) => [mesh, group.joined]));
  return { ...model, nodes, meshes, joined, ...(model.along ? { along: alongInWorld(model.along, world) } : {}) };
}

/**
 * Merges, mends and checks a model as its recipe says. Meshes keep their numbers.
 * @param progress is told the part of the work that is done, 0 to 1
 * @throws UserProblem where nothing is left, or limits are passed
 */
export function mendModel(
  source: Model,
  recipe: Pick<Recipe, 'merge' | 'crease' | 'leave'>,
  progress: (part: number) => void = () => undefined,
): { model: Model; found: Found } {
  const model = mergeModel(source, recipe.merge);
  const found: Found = {};
  const leaves = Object.entries(recipe.leave) as [Mend, number[]][];
  const all = model.meshes.reduce((sum, mesh) => sum + mesh.indices.length, 1);
  let done = 0;
  const meshes = model.meshes.map((mesh, number) => {
    const leave = new Set(leaves.flatMap(([mend, meshes]) => (meshes.includes(number) ? [mend] : [])));
    const mended = mendMesh(mesh, { exact: model.exact, crease: recipe.crease, leave });
    mended.findings.unwelded += model.joined?.[number] ?? 0;
    for (const [finding, count] of Object.entries(mended.findings) as [Finding, number][]) {
      if (count > 0) (found[finding] ??= {})[number] = count;
    }
    done += mesh.indices.length;
    progress(done / all);
    return mended.mesh;
  });
  const nodes = model.nodes.map((node) => ({
    ...node,
    name: (node.name.trim() || 'Part').slice(0, LIMITS.nameLength),
    mesh: node.mesh !== null && meshes[node.mesh]!.indices.length > 0 ? node.mesh : null,
  }));
  const made = { ...model, nodes, meshes };
  checkLimits(made);
  return { model: made, found };
}

function checkLimits(model: Model): void {
  const parts = model.nodes.filter((node) => node.mesh !== null);
  const triangles = parts.reduce((sum, node) => sum + triangleCount(model, node), 0);
  if (parts.length === 0) {
    throw new UserProblem(
      'model-empty',
      'The file holds no solid or surface that could be shown. Check that the export included the bodies, not only sketches or points.',
      422,
    );
  }
  if (parts.length > LIMITS.parts) {
    throw new UserProblem(
      'too-many-parts',
      `The file holds ${sayNumber(parts.length)} parts; at most ${sayNumber(LIMITS.parts)} can be opened. Merge small parts before exporting.`,
      413,
    );
  }
  if (triangles > MOST_TRIANGLES) {
    throw new UserProblem(
      'too-many-triangles',
      `The file holds ${Math.round(triangles / 1e6)} million triangles; at most ${MOST_TRIANGLES / 1e6} million can be opened. Export it with a coarser tessellation.`,
      413,
    );
  }
}
