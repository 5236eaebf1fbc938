import { meshOfModel } from '@zippy/core/document';
import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transformPoint, transformDirection, type TriangleMesh } from '@zippy/core/geometry';
import type { FrameState } from '@zippy/core/motion';

/** Compiles a reference program of this folder; null, and says so, where Embree is not installed. */
export function compileReference(source: string): { program: string; folder: string } | null {
  const folder = mkdtempSync(join(tmpdir(), 'zippy-reference-'));
  const program = join(folder, 'reference');
  const path = fileURLToPath(new URL(source, import.meta.url));
  const { status } = spawnSync('g++', ['-O3', '-march=native', path, '-o', program, '-lembree3'], { stdio: 'ignore' });
  if (status === 0) return { program, folder };
  console.log(`${source}: skipped, Embree is not installed (apt install libembree-dev)`);
  return null;
}

/** Corners of all triangles of a scene in the world, nine numbers a triangle. */
export function worldTriangles(state: FrameState, meshes: readonly TriangleMesh[]): Float32Array {
  const triangles: number[] = [];
  for (const part of state.parts) {
    const { positions, indices } = meshes[meshOfModel(part.mesh)!.index]!;
    for (const index of indices) {
      const at = index * 3;
      triangles.push(...transformPoint(part.transform, [positions[at]!, positions[at + 1]!, positions[at + 2]!]));
    }
  }
  return new Float32Array(triangles);
}

/** Normals of all corners in the same order; parts here are moved and turned only. */
export function worldNormals(state: FrameState, meshes: readonly TriangleMesh[]): Float32Array {
  const all: number[] = [];
  for (const part of state.parts) {
    const { normals, indices } = meshes[meshOfModel(part.mesh)!.index]!;
    for (const index of indices) {
      const at = index * 3;
      all.push(...transformDirection(part.transform, [normals[at]!, normals[at + 1]!, normals[at + 2]!]));
    }
  }
  return new Float32Array(all);
}
