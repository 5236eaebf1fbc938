import { inject, Injectable, InjectionToken } from '@angular/core';
import type { MeshRef, Vector3 } from '@zippy/core/document';
import type { Bounds, Transform } from '@zippy/core/geometry';
import { proxy, wrap } from 'comlink';
import type { LoadedModel, MeshThread, PickingTree, Survey } from './meshes.worker';

/** The thread that reads meshes. */
export const MESH_THREAD = new InjectionToken<MeshThread>('MESH_THREAD', {
  factory: () => wrap<MeshThread>(new Worker(new URL('./meshes.worker', import.meta.url), { type: 'module' })),
});

/** Models by content hash, read in a worker, each once. */
@Injectable({ providedIn: 'root' })
export class MeshLibrary {
  private readonly thread = inject(MESH_THREAD);
  /** Trees for picking by the key of their mesh; small meshes have none. */
  readonly trees = new Map<string, PickingTree>();
  /** Outermost vertices of meshes by their keys, as far as they have come. */
  readonly outlines = new Map<string, Float32Array>();
  onTree: (mesh: string) => void = () => undefined;
  private readonly models = new Map<string, Promise<LoadedModel>>();
  private readonly planted = proxy((mesh: string, tree: PickingTree) => {
    this.trees.set(mesh, tree);
    this.onTree(mesh);
  });

  load(asset: string): Promise<LoadedModel> {
    let model = this.models.get(asset);
    if (!model) {
      model = sayFailure(this.thread.load(asset, this.planted));
      model.then(
        ({ outlines }) => outlines.forEach((outline, k) => this.outlines.set(`${asset}/${k}`, outline)),
        () => this.models.delete(asset),
      );
      this.models.set(asset, model);
    }
    return model;
  }

  /** Lists of faces into which a mesh can be split: each alone, or by loose shell. */
  divide = (mesh: MeshRef, by: 'faces' | 'shells'): Promise<number[][]> => sayFailure(this.thread.divide(mesh, by));

  /** The box of a mesh once it is transformed: that of its vertices, not of its turned box. */
  measure = (mesh: MeshRef, transform: Transform): Promise<Bounds> => sayFailure(this.thread.measure(mesh, transform));

  /** What a place on a triangle of a mesh is drawn to, and the axis of the face it is on; lengths in the mesh's own space. */
  survey = (mesh: MeshRef, triangle: number, point: Vector3, reach: number): Promise<Survey> =>
    sayFailure(this.thread.survey(mesh, triangle, point, reach));
}

async function sayFailure<T>(answer: Promise<T>): Promise<T> {
  try {
    return await answer;
  } catch (error) {
    const what = error instanceof Error ? error.message : String(error);
    throw new Error(`The model could not be shown: ${what}. Reload the page.`, { cause: error });
  }
}
