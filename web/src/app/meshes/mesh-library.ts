import { Injectable } from '@angular/core';
import type { MeshRef, Vector3 } from '@zippy/core/document';
import type { Bounds, Transform } from '@zippy/core/geometry';
import type { LoadedModel, MeshRequest, PickingTree, Survey } from './meshes.worker';

type Answer = { id: number; made?: unknown; failure?: string };
type Planted = { planted: { mesh: string; tree: PickingTree } };
type Without<T, K extends string> = T extends unknown ? Omit<T, K> : never;

/** Models by content hash, read in a worker, each once. */
@Injectable({ providedIn: 'root' })
export class MeshLibrary {
  private readonly worker = new Worker(new URL('./meshes.worker', import.meta.url), { type: 'module' });
  /** Trees for picking by the key of their mesh; small meshes have none. */
  readonly trees = new Map<string, PickingTree>();
  onTree: (mesh: string) => void = () => undefined;
  private readonly models = new Map<string, Promise<LoadedModel>>();
  private readonly waiting = new Map<number, { resolve: (made: unknown) => void; reject: (error: Error) => void }>();
  private asked = 0;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<Answer | Planted>) => {
      if ('planted' in data) {
        this.trees.set(data.planted.mesh, data.planted.tree);
        return this.onTree(data.planted.mesh);
      }
      const waiting = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if (data.made !== undefined) waiting?.resolve(data.made);
      else waiting?.reject(new Error(`The model could not be shown: ${data.failure}. Reload the page.`));
    };
  }

  load(asset: string): Promise<LoadedModel> {
    let model = this.models.get(asset);
    if (!model) {
      model = this.ask<LoadedModel>({ type: 'load', asset });
      model.catch(() => this.models.delete(asset));
      this.models.set(asset, model);
    }
    return model;
  }

  /** Lists of faces into which a mesh can be split: each alone, or by loose shell. */
  divide(mesh: MeshRef, by: 'faces' | 'shells'): Promise<number[][]> {
    return this.ask<number[][]>({ type: 'divide', mesh, by });
  }

  /** The box of a mesh once it is transformed: that of its vertices, not of its turned box. */
  measure(mesh: MeshRef, transform: Transform): Promise<Bounds> {
    return this.ask<Bounds>({ type: 'measure', mesh, transform });
  }

  /** What a place on a triangle of a mesh is drawn to, and the axis of the face it is on; lengths in the mesh's own space. */
  survey(mesh: MeshRef, triangle: number, point: Vector3, reach: number): Promise<Survey> {
    return this.ask<Survey>({ type: 'survey', mesh, triangle, point, reach });
  }

  private ask<T>(request: Without<MeshRequest, 'id'>): Promise<T> {
    const id = ++this.asked;
    return new Promise<T>((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as (made: unknown) => void, reject });
      this.worker.postMessage({ ...request, id });
    });
  }
}
