/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import { meshKey, type MeshRef, type Vector3 } from '@zippy/core/document';
import {
  BorderCurves,
  boundsOfPositions,
  boundsOfTransformed,
  facesAlone,
  facesByShell,
  outlineOf,
  type Bounds,
  type FittedAxis,
  type Snapped,
  type Transform,
  type TriangleMesh,
} from '@zippy/core/geometry';
import { readMeshesGlb } from '@zippy/core/intake';
import { partMesh } from '@zippy/core/scene';
import { blobUrl } from '../api/urls';

/** A tree as it is sent from thread to thread; see three-mesh-bvh. */
export type PickingTree = SerializedBVH;

/** A model's meshes with the box and the outermost vertices of each. */
export interface LoadedModel {
  meshes: TriangleMesh[];
  bounds: Bounds[];
  outlines: Float32Array[];
}

export interface Survey {
  snapped: Snapped;
  axis: FittedAxis | null;
}

async function read(asset: string): Promise<TriangleMesh[]> {
  const response = await fetch(blobUrl(asset));
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  return readMeshesGlb(new Uint8Array(await response.arrayBuffer()));
}

const meshOf = (mesh: MeshRef): Promise<TriangleMesh> =>
  partMesh(mesh, async (asset, index) => (await read(asset))[index]!);

/** The mesh that was surveyed last: the pointer stays on one for a while. */
let surveyed: { key: string; curves: Promise<BorderCurves> } | null = null;

function curvesOf(mesh: MeshRef): Promise<BorderCurves> {
  const key = meshKey(mesh);
  if (surveyed?.key !== key) surveyed = { key, curves: meshOf(mesh).then((made) => new BorderCurves(made)) };
  return surveyed.curves;
}

/** Smaller meshes are picked as fast without a tree. */
const LEAST_FOR_TREE = 3000;

/** Trees over the triangles of a model's meshes, so that a ray finds what it hits in no time; sent when they are there. */
function plantTrees(
  asset: string,
  meshes: readonly Pick<TriangleMesh, 'positions' | 'indices'>[],
  planted: (mesh: string, tree: PickingTree) => void,
): void {
  meshes.forEach(({ positions, indices }, index) => {
    if (indices.length / 3 < LEAST_FOR_TREE) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    // Indirect trees leave the order of the triangles as it is.
    const made = MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
    const tree: PickingTree = { ...made, index: null };
    planted(`${asset}/${index}`, transfer(tree, [...made.roots, made.indirectBuffer!.buffer as ArrayBuffer]));
  });
}

/** What the page asks of the thread that reads the meshes of models, divides and surveys them. */
const thread = {
  /** A model's meshes. The page shows them while the trees are made of copies, each told of by `planted`. */
  async load(asset: string, planted: (mesh: string, tree: PickingTree) => void): Promise<LoadedModel> {
    const meshes = await read(asset);
    const copies = meshes.map(({ positions, indices }) => ({
      positions: positions.slice(),
      indices: indices.slice(),
    }));
    setTimeout(() => plantTrees(asset, copies, planted));
    const bounds = meshes.map(({ positions }) => boundsOfPositions(positions));
    const outlines = meshes.map(({ positions }) => outlineOf(positions));
    const buffers = meshes.flatMap((mesh) => Object.values(mesh).map((array: Uint32Array) => array.buffer));
    return transfer({ meshes, bounds, outlines }, buffers as ArrayBuffer[]);
  },
  async divide({ faces, ...whole }: MeshRef, by: 'faces' | 'shells'): Promise<number[][]> {
    return (by === 'faces' ? facesAlone : facesByShell)(await meshOf(whole), faces);
  },
  async measure(mesh: MeshRef, transform: Transform): Promise<Bounds> {
    return boundsOfTransformed((await meshOf(mesh)).positions, transform);
  },
  async survey(mesh: MeshRef, triangle: number, point: Vector3, reach: number): Promise<Survey> {
    const curves = await curvesOf(mesh);
    return { snapped: curves.snap(triangle, point, reach), axis: curves.axisOf(triangle) };
  },
};

export type MeshThread = typeof thread;

expose(thread);
