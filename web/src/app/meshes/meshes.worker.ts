import { blobUrl } from '../api/urls';
import { partMesh } from '@zippy/core/scene';

/// <reference lib="webworker" />
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import { meshKey, type MeshRef, type Vector3 } from '@zippy/core/document';
import {
  BorderCurves,
  boundsOfPositions,
  boundsOfTransformed,
  facesAlone,
  facesByShell,
  type Bounds,
  type FittedAxis,
  type Snapped,
  type Transform,
  type TriangleMesh,
} from '@zippy/core/geometry';
import { readMeshesGlb } from '@zippy/core/intake';
export type MeshRequest =
  | { id: number; type: 'load'; asset: string }
  | { id: number; type: 'divide'; mesh: MeshRef; by: 'faces' | 'shells' }
  | { id: number; type: 'measure'; mesh: MeshRef; transform: Transform }
  | { id: number; type: 'survey'; mesh: MeshRef; triangle: number; point: Vector3; reach: number };

/** A tree as it is sent from thread to thread; see three-mesh-bvh. */
export type PickingTree = SerializedBVH;

/** A model's meshes with the box of each. */
export interface LoadedModel {
  meshes: TriangleMesh[];
  bounds: Bounds[];
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
function plantTrees(asset: string, meshes: readonly Pick<TriangleMesh, 'positions' | 'indices'>[]): void {
  meshes.forEach(({ positions, indices }, index) => {
    if (indices.length / 3 < LEAST_FOR_TREE) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    // Indirect trees leave the order of the triangles as it is.
    const made = MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
    const tree: PickingTree = { ...made, index: null };
    const transfer = [...made.roots, made.indirectBuffer!.buffer as ArrayBuffer];
    postMessage({ planted: { mesh: `${asset}/${index}`, tree } }, { transfer });
  });
}

async function answer(request: MeshRequest): Promise<{ made: unknown; transfer?: Transferable[]; after?: () => void }> {
  switch (request.type) {
    case 'load': {
      const meshes = await read(request.asset);
      const transfer = meshes.flatMap((mesh) => Object.values(mesh).map((array: Uint32Array) => array.buffer));
      // The page shows the meshes while the trees are made of copies.
      const copies = meshes.map(({ positions, indices }) => ({
        positions: positions.slice(),
        indices: indices.slice(),
      }));
      const after = () => plantTrees(request.asset, copies);
      const bounds = meshes.map(({ positions }) => boundsOfPositions(positions));
      return { made: { meshes, bounds } satisfies LoadedModel, transfer: transfer as ArrayBuffer[], after };
    }
    case 'divide': {
      const { faces, ...whole } = request.mesh;
      return { made: (request.by === 'faces' ? facesAlone : facesByShell)(await meshOf(whole), faces) };
    }
    case 'measure':
      return { made: boundsOfTransformed((await meshOf(request.mesh)).positions, request.transform) };
    case 'survey': {
      const curves = await curvesOf(request.mesh);
      const snapped = curves.snap(request.triangle, request.point, request.reach);
      return { made: { snapped, axis: curves.axisOf(request.triangle) } satisfies Survey };
    }
  }
}

/** Reads the meshes of a model, divides and surveys them, away from the page. */
addEventListener('message', async ({ data }: MessageEvent<MeshRequest>) => {
  try {
    const { made, transfer, after } = await answer(data);
    postMessage({ id: data.id, made }, { transfer: transfer ?? [] });
    after?.();
  } catch (error) {
    postMessage({ id: data.id, failure: error instanceof Error ? error.message : String(error) });
  }
});
