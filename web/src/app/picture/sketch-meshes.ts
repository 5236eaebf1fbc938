import { partMesh } from '@zippy/core/scene';
import type { FrameState } from '@zippy/core/motion';
import { type BufferGeometry } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { meshAssets, meshKey, meshOfModel, type MeshRef } from '@zippy/core/document';
import { boundsOfPositions, outlineOf, type Bounds } from '@zippy/core/geometry';
import { otherWork } from '../store/other-work';
import type { MeshLibrary } from '../meshes/mesh-library';
import { geometryOf } from '../meshes/sketch-geometry';

/** Who hears of meshes that come. */
export interface MeshNews {
  /** Meshes have come: their bounds in their own space and their triangles, by their keys. */
  meshes(bounds: Map<string, Bounds>, triangles: Map<string, number>, bare: readonly string[]): void;
  /** All meshes of one more model are there. */
  model(): void;
  /** More can be drawn than before. */
  more(): void;
  failure(message: string): void;
}

/** Milliseconds of work after which others on the page get their turn. */
const BREATH = 8;

/** The meshes of the sketch as they are drawn, loaded as they are asked for. */
export class SketchMeshes {
  private readonly geometries = new Map<string, BufferGeometry>();
  /** Models whose meshes are all there, those on their way, and keys of pieces of them that are being made. */
  private readonly loaded = new Set<string>();
  private readonly loading = new Set<string>();
  private readonly making = new Set<string>();

  constructor(
    private readonly library: MeshLibrary,
    private readonly told: MeshNews,
  ) {
    library.onTree = (mesh) => this.plantTree(mesh);
  }

  /** Whether all meshes of a frame are there. */
  has = (frame: FrameState): boolean => frame.parts.every(({ mesh }) => this.geometries.has(meshKey(mesh)));

  /** The geometry of a mesh; null while it is on its way. */
  of(mesh: MeshRef): BufferGeometry | null {
    const geometry = this.geometries.get(meshKey(mesh));
    if (geometry) return geometry;
    if (!this.makeMesh(mesh)) for (const asset of meshAssets(mesh)) void this.loadModel(asset);
    return null;
  }

  /** Makes the geometry of set pieces, of some faces or of joined parts, once the models they are of are there. */
  private makeMesh(mesh: MeshRef): boolean {
    const whole = meshOfModel(mesh) && !mesh.faces && !mesh.joined;
    if (whole || !meshAssets(mesh).every((asset) => this.loaded.has(asset))) return false;
    const key = meshKey(mesh);
    if (this.making.has(key)) return true;
    this.making.add(key);
    void partMesh(mesh, async (asset, index) => (await this.library.load(asset)).meshes[index]!)
      .then((made) => {
        const bounds = boundsOfPositions(made.positions);
        this.geometries.set(key, geometryOf(made, bounds));
        this.library.outlines.set(key, outlineOf(made.positions));
        const bare = made.uvs ? [] : [key];
        this.told.meshes(new Map([[key, bounds]]), new Map([[key, made.indices.length / 3]]), bare);
        this.told.more();
      })
      .catch((error: unknown) => this.told.failure(error instanceof Error ? error.message : String(error)))
      .finally(() => this.making.delete(key));
    return true;
  }

  private async loadModel(asset: string): Promise<void> {
    if (this.loaded.has(asset) || this.loading.has(asset)) return;
    this.loading.add(asset);
    try {
      const model = await this.library.load(asset);
      const bounds = new Map<string, Bounds>();
      const triangles = new Map<string, number>();
      const bare: string[] = [];
      let began = performance.now();
      for (const [index, mesh] of model.meshes.entries()) {
        this.geometries.set(`${asset}/${index}`, geometryOf(mesh, model.bounds[index]!));
        this.plantTree(`${asset}/${index}`);
        bounds.set(`${asset}/${index}`, model.bounds[index]!);
        triangles.set(`${asset}/${index}`, mesh.indices.length / 3);
        if (!mesh.uvs) bare.push(`${asset}/${index}`);
        if (performance.now() - began < BREATH) continue;
        await otherWork();
        began = performance.now();
      }
      this.loaded.add(asset);
      this.told.meshes(bounds, triangles, bare);
      await otherWork();
      this.told.model();
      this.told.more();
    } catch (error) {
      this.told.failure(error instanceof Error ? error.message : String(error));
    } finally {
      this.loading.delete(asset);
    }
  }

  /** Gives a geometry its tree for picking, once both are there. */
  private plantTree(mesh: string): void {
    const [geometry, tree] = [this.geometries.get(mesh), this.library.trees.get(mesh)];
    if (geometry && tree) geometry.boundsTree = MeshBVH.deserialize(tree, geometry, { setIndex: false });
  }
}
