import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Vector } from './vector';

/** Rays against the triangles of one mesh. */
export class MeshRays {
  private readonly tree: MeshBVH;
  private readonly ray = new Ray();

  constructor(positions: Float32Array, indices: Uint32Array) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    // Indirect trees leave the order of the triangles as it is.
    this.tree = new MeshBVH(geometry, { indirect: true });
  }

  /** Numbers of all triangles that a ray passes. */
  crossings(from: Vector, direction: Vector): number[] {
    return this.tree.raycast(this.aim(from, direction), DoubleSide).map((hit) => hit.faceIndex!);
  }

  /** Whether a ray leaves without meeting anything. */
  escapes(from: Vector, direction: Vector): boolean {
    return this.tree.raycastFirst(this.aim(from, direction), DoubleSide) === null;
  }

  private aim([x, y, z]: Vector, [dx, dy, dz]: Vector): Ray {
    this.ray.origin.set(x, y, z);
    this.ray.direction.copy(new Vector3(dx, dy, dz)).normalize();
    return this.ray;
  }
}
