import { inject, Injectable } from '@angular/core';
import { subtree, type Vector3 } from '@zippy/core/document';
import { add, invertTransform, length, normalize, scale, subtract, transformDirection } from '@zippy/core/geometry';
import { worldTransforms } from '@zippy/core/scene';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** Of the way of a part from the middle, by which it comes out when a group is taken apart; and of the group's size, what each comes out at least. */
const APART = 0.9;
const LEAST_APART = 0.12;

/** Ways on which groups are taken apart. */
@Injectable({ providedIn: 'root' })
export class WaysApart {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  /** What a group comes apart into: what lies in it, or in the one thing that lies in it. */
  below(id: string): string[] {
    const { nodes } = this.studio.document();
    const within = Object.values(nodes).flatMap((node) => (node.parent === id ? [node.id] : []));
    return within.length === 1 && !nodes[within[0]!]!.mesh ? this.below(within[0]!) : within;
  }

  /** Ways on which the things in a group come apart, those that are farthest out first. @param along from the middle, or one axis of the world */
  of(id: string, along: 'middle' | 'x' | 'y' | 'z', parts = false): { node: string; way: Vector3 }[] {
    const document = this.studio.document();
    const all = subtree(document, id);
    const { center, size } = this.bounds.around(all);
    const { nodes } = document;
    const things = parts ? all.filter((each) => nodes[each]!.mesh) : this.below(id);
    const world = worldTransforms(this.studio.presentAtRest());
    const axis = 'xyz'.indexOf(along);
    const ways = things.map((node) => {
      const out = subtract(this.bounds.around(subtree(document, node)).center, center);
      const led = (axis < 0 ? out : out.map((v, k) => (k === axis ? v : 0))) as Vector3;
      const far = length(led);
      // What sits in the middle stays there, unless all of it has to go one way.
      const way =
        far < 1e-6 * size ? ([0, 0, 0] as Vector3) : add(scale(led, APART), scale(normalize(led), LEAST_APART * size));
      return { node, way, far };
    });
    ways.sort((a, b) => b.far - a.far);
    return ways.map(({ node, way }) => {
      const { parent } = nodes[node]!;
      const inverse = parent === null ? null : invertTransform(world.get(parent)!);
      return { node, way: inverse ? transformDirection(inverse, way) : way };
    });
  }
}
