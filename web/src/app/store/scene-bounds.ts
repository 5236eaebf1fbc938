import { worldTransforms } from '@zippy/core/scene';
import { computed, inject, Injectable, Injector, signal } from '@angular/core';
import { centreOf, emptyBounds, isEmpty, keepsAxes, transformBounds, unite, type Bounds } from '@zippy/core/geometry';
import { meshKey, subtree, type Vector3 } from '@zippy/core/document';
import { MeshLibrary } from '../meshes/mesh-library';
import { Studio } from './studio';

/** Where the product is and how large, from the bounds of the meshes that have been loaded. */
@Injectable({ providedIn: 'root' })
export class SceneBounds {
  private readonly studio = inject(Studio);
  // Its thread is started once it is needed.
  private readonly injector = inject(Injector);
  /** Bounds of meshes in their own space, by their key. */
  readonly meshes = signal<ReadonlyMap<string, Bounds>>(new Map());

  /** Of the same, those that brought no coordinates for pictures. */
  readonly bare = signal<ReadonlySet<string>>(new Set());
  /** Triangles of the same. */
  readonly triangles = signal<ReadonlyMap<string, number>>(new Map());

  readonly product = computed((): { center: Vector3; size: number } =>
    this.around(this.studio.frameState().parts.map((part) => part.node)),
  );

  /** Middle and longest side of parts; of none, those of something that one could hold. */
  around(nodes: readonly string[]): { center: Vector3; size: number } {
    const bounds = this.of(nodes);
    if (isEmpty(bounds)) return { center: [0, 60, 0], size: 240 };
    return { center: centreOf(bounds), size: Math.max(...bounds.high.map((v, k) => v - bounds.low[k]!)) };
  }

  private readonly partsAtRest = computed(
    () => new Map(this.studio.frameStateAtRest().parts.map((part) => [part.node, part])),
  );

  /** The longest side of a part in millimetres, along its own axes, however it is turned; null where it is not shown. */
  longest(node: string): number | null {
    const part = this.partsAtRest().get(node);
    const box = part && this.meshes().get(meshKey(part.mesh));
    if (!part || !box || isEmpty(box)) return null;
    const m = part.transform;
    return Math.max(...box.high.map((v, k) => (v - box.low[k]!) * Math.hypot(m[k]!, m[4 + k]!, m[8 + k]!)));
  }

  /** The middle of every part that is shown, by its instance. */
  middles(): Map<string, Vector3> {
    const found = new Map<string, Vector3>();
    for (const part of this.studio.frameState().parts) {
      const mesh = this.meshes().get(meshKey(part.mesh));
      if (!mesh) continue;
      found.set(part.instance, centreOf(transformBounds(mesh, part.transform)));
    }
    return found;
  }

  /** World bounds of a node with all below it as if nothing of it were copied; tight also where parts are turned. */
  async ofNode(id: string): Promise<Bounds> {
    const present = this.studio.present();
    const nodes = subtree(this.studio.document(), id);
    const world = worldTransforms(present, nodes);
    const bounds = emptyBounds();
    for (const each of nodes) {
      const { mesh } = present.nodes[each]!;
      const own = mesh && this.meshes().get(meshKey(mesh));
      const place = world.get(each)!;
      if (!own) continue;
      if (keepsAxes(place)) unite(bounds, transformBounds(own, place));
      else unite(bounds, await this.injector.get(MeshLibrary).measure(mesh, place));
    }
    return bounds;
  }

  /** World bounds of parts. */
  of(nodes: readonly string[]): Bounds {
    const wanted = new Set(nodes);
    const bounds = emptyBounds();
    for (const part of this.studio.frameState().parts) {
      const mesh = wanted.has(part.node) ? this.meshes().get(meshKey(part.mesh)) : undefined;
      if (mesh) unite(bounds, transformBounds(mesh, part.transform));
    }
    return bounds;
  }
}
