/// <reference lib="webworker" />
import { facesAlone, facesByShell, type TriangleMesh } from '@zippy/core/geometry';
import { partMesh } from '@zippy/core/motion';
import type { MeshRef } from '@zippy/core/document';
import { readMeshesGlb } from '@zippy/core/intake';

export type MeshRequest =
  { id: number; type: 'load'; asset: string } | { id: number; type: 'divide'; mesh: MeshRef; by: 'faces' | 'shells' };

async function read(asset: string): Promise<TriangleMesh[]> {
  const response = await fetch(`/api/blobs/${asset}`);
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  return readMeshesGlb(new Uint8Array(await response.arrayBuffer()));
}

/** Reads the meshes of a model, and divides them, away from the page. */
addEventListener('message', async ({ data }: MessageEvent<MeshRequest>) => {
  const { id } = data;
  try {
    if (data.type === 'divide') {
      const { faces, ...whole } = data.mesh;
      const mesh = await partMesh(whole, async (asset, index) => (await read(asset))[index]!);
      return postMessage({ id, made: (data.by === 'faces' ? facesAlone : facesByShell)(mesh, faces) });
    }
    const meshes = await read(data.asset);
    const transfer = meshes.flatMap((mesh) => Object.values(mesh).map((array: Uint32Array) => array.buffer));
    postMessage({ id, made: meshes }, { transfer });
  } catch (error) {
    postMessage({ id, failure: error instanceof Error ? error.message : String(error) });
  }
});
