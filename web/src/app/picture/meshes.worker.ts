/// <reference lib="webworker" />
import { meshKey, type MeshRef, type Vector3 } from '@zippy/core/document';
import {
  BorderCurves,
  facesAlone,
  facesByShell,
  type FittedAxis,
  type Snapped,
  type TriangleMesh,
} from '@zippy/core/geometry';
import { readMeshesGlb } from '@zippy/core/intake';
import { partMesh } from '@zippy/core/motion';

export type MeshRequest =
  | { id: number; type: 'load'; asset: string }
  | { id: number; type: 'divide'; mesh: MeshRef; by: 'faces' | 'shells' }
  | { id: number; type: 'survey'; mesh: MeshRef; triangle: number; point: Vector3; reach: number };

export interface Survey {
  snapped: Snapped;
  axis: FittedAxis | null;
}

async function read(asset: string): Promise<TriangleMesh[]> {
  const response = await fetch(`/api/blobs/${asset}`);
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

async function answer(request: MeshRequest): Promise<{ made: unknown; transfer?: Transferable[] }> {
  switch (request.type) {
    case 'load': {
      const meshes = await read(request.asset);
      const transfer = meshes.flatMap((mesh) => Object.values(mesh).map((array: Uint32Array) => array.buffer));
      return { made: meshes, transfer: transfer as ArrayBuffer[] };
    }
    case 'divide': {
      const { faces, ...whole } = request.mesh;
      return { made: (request.by === 'faces' ? facesAlone : facesByShell)(await meshOf(whole), faces) };
    }
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
    const { made, transfer } = await answer(data);
    postMessage({ id: data.id, made }, { transfer: transfer ?? [] });
  } catch (error) {
    postMessage({ id: data.id, failure: error instanceof Error ? error.message : String(error) });
  }
});
