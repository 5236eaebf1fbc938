/// <reference lib="webworker" />
import { readMeshesGlb } from '@zippy/core/intake';

/** Reads the meshes of a model away from the page. */
addEventListener('message', async ({ data }: MessageEvent<{ url: string }>) => {
  try {
    const response = await fetch(data.url);
    if (!response.ok) throw new Error(`the server answered ${response.status}`);
    const meshes = await readMeshesGlb(new Uint8Array(await response.arrayBuffer()));
    postMessage(
      { url: data.url, meshes },
      {
        transfer: meshes.flatMap(({ positions, normals, indices, uvs, faces }) => [
          positions.buffer,
          normals.buffer,
          indices.buffer,
          ...(uvs ? [uvs.buffer] : []),
          ...(faces ? [faces.buffer] : []),
        ]),
      },
    );
  } catch (error) {
    postMessage({ url: data.url, failure: error instanceof Error ? error.message : String(error) });
  }
});
