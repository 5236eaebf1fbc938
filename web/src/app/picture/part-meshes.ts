import * as THREE from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import { meshAssets, meshKey, meshOfModel, type MeshRef, type Vector3 } from '@zippy/core/document';
import { boundsOfPositions, type Bounds, type Transform } from '@zippy/core/geometry';
import { partMesh, type FrameState, type PartState } from '@zippy/core/motion';
import type { MeshLibrary } from './mesh-library';
import { geometryOf, matrixOf, projectFromSides } from './sketch-geometry';
import { SketchMaterials, type Shade } from './sketch-materials';

/** What is shown of the parts. */
export interface PartsView {
  frame: FrameState;
  /** Content hashes of pictures by asset id. */
  pictures: Readonly<Record<string, string>>;
  selectedNodes: ReadonlySet<string>;
  isolated: ReadonlySet<string> | null;
  /** Parts that are lit while all others are dimmed; null dims nothing. */
  lit: ReadonlySet<string> | null;
  /** How far parts are drawn apart, and from where; null draws them where they are. */
  apart: { by: number; center: Vector3; middles: ReadonlyMap<string, Vector3> } | null;
}

/** Who hears of what comes. */
export interface PartNews {
  /** Meshes have come: their bounds in their own space and their triangles, by their keys. */
  meshes(bounds: Map<string, Bounds>, triangles: Map<string, number>): void;
  /** All meshes of one more model are there. */
  model(): void;
  /** What is shown has changed without having been asked for. */
  changed(): void;
  failure(message: string): void;
}

/** A part that a ray meets, drawn with a transform that may differ from its own. */
export interface PartHit {
  hit: THREE.Intersection;
  part: PartState;
  transform: Transform;
}

/** Milliseconds of work after which others on the page get their turn. */
const BREATH = 8;

/** The parts as they are drawn in the sketch, their meshes loaded as they are needed. */
export class PartMeshes {
  readonly group = new THREE.Group();
  /** The part that each drawn mesh shows. */
  private readonly shown = new Map<THREE.Mesh, { part: PartState; transform: Transform }>();
  private readonly geometries = new Map<string, THREE.BufferGeometry>();
  private readonly materials = new SketchMaterials(() => this.told.changed());
  private readonly meshes = new Map<string, THREE.Mesh>();
  /** Models whose meshes are all there, and keys of pieces of them that are being made. */
  private readonly loaded = new Set<string>();
  private readonly making = new Set<string>();
  private view: PartsView | null = null;
  private hovered: string | null = null;

  constructor(
    private readonly library: MeshLibrary,
    private readonly told: PartNews,
  ) {
    library.onTree = (mesh) => this.plantTree(mesh);
  }

  /** Whether all meshes of a frame are there. */
  has = (frame: FrameState): boolean => frame.parts.every(({ mesh }) => this.geometries.has(meshKey(mesh)));

  /** Lights a part up while something is dragged over it. */
  hover(node: string | null): void {
    if (node === this.hovered) return;
    this.hovered = node;
    this.again();
  }

  /** All parts that a ray meets, the nearest first, each once. */
  cast(ray: THREE.Raycaster): PartHit[] {
    // A still may have moved the parts and put them back since they were drawn last.
    this.group.updateMatrixWorld();
    const hits = ray.intersectObjects(
      this.group.children.filter((part) => part.visible),
      false,
    );
    const seen = new Set<string>();
    return hits.flatMap((hit) => {
      if (seen.has(hit.object.name)) return [];
      seen.add(hit.object.name);
      return [{ hit, ...this.shown.get(hit.object as THREE.Mesh)! }];
    });
  }

  /** Nodes of parts that lie wholly within a rectangle of the canvas (0 to 1 from the top left), hidden behind others too. */
  within(camera: THREE.Camera, left: number, top: number, right: number, bottom: number): string[] {
    this.group.updateMatrixWorld();
    const corner = new THREE.Vector3();
    const found = new Set<string>();
    for (const [mesh, { part }] of this.shown) {
      if (!mesh.visible) continue;
      const { min, max } = mesh.geometry.boundingBox!;
      const inside = [0, 1, 2, 3, 4, 5, 6, 7].every((k) => {
        corner.set(k & 1 ? max.x : min.x, k & 2 ? max.y : min.y, k & 4 ? max.z : min.z);
        corner.applyMatrix4(mesh.matrixWorld).project(camera);
        const [x, y] = [(corner.x + 1) / 2, (1 - corner.y) / 2];
        return corner.z < 1 && x >= left && x <= right && y >= top && y <= bottom;
      });
      if (inside) found.add(part.node);
    }
    return [...found];
  }

  show(view: PartsView): void {
    this.view = view;
    const { frame, selectedNodes, isolated, lit: litParts, apart, pictures } = view;
    const seen = new Set<string>();
    for (const part of frame.parts) {
      const geometry = this.geometries.get(meshKey(part.mesh));
      if (!geometry) {
        if (!this.makeMesh(part.mesh)) for (const asset of meshAssets(part.mesh)) void this.loadModel(asset);
        continue;
      }
      let mesh = this.meshes.get(part.instance);
      if (!mesh) {
        mesh = new THREE.Mesh(geometry);
        mesh.name = part.node;
        mesh.matrixAutoUpdate = false;
        mesh.raycast = acceleratedRaycast;
        this.meshes.set(part.instance, mesh);
        this.group.add(mesh);
      }
      const transform = apart ? drawnApart(part, apart) : part.transform;
      this.shown.set(mesh, { part, transform });
      mesh.geometry = geometry;
      mesh.matrix.copy(matrixOf(transform));
      mesh.matrixWorldNeedsUpdate = true;
      mesh.visible = isolated === null || isolated.has(part.node);
      const finish = part.finish ? frame.finishes[part.finish] : undefined;
      const dim = litParts !== null && !litParts.has(part.node);
      const lit: Shade = dim ? 'dim' : part.node === this.hovered ? 'hovered' : selectedNodes.has(part.node) ? 'selected' : 'plain'; // prettier-ignore
      const map = finish?.maps.baseColor;
      const hash = map && pictures[map.picture];
      if (hash && !geometry.hasAttribute('uv')) projectFromSides(geometry);
      mesh.material = this.materials.of(
        finish,
        part.glow,
        lit,
        map && hash ? this.materials.textureOf(map, hash) : null,
      );
      seen.add(part.instance);
    }
    for (const [instance, mesh] of this.meshes) {
      if (seen.has(instance)) continue;
      this.group.remove(mesh);
      this.shown.delete(mesh);
      this.meshes.delete(instance);
    }
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
        this.told.meshes(new Map([[key, bounds]]), new Map([[key, made.indices.length / 3]]));
        this.again();
      })
      .catch((error: unknown) => this.told.failure(error instanceof Error ? error.message : String(error)))
      .finally(() => this.making.delete(key));
    return true;
  }

  private async loadModel(asset: string): Promise<void> {
    if (this.geometries.has(asset)) return;
    // Stands for the whole model while it is on its way.
    this.geometries.set(asset, new THREE.BufferGeometry());
    try {
      const model = await this.library.load(asset);
      const bounds = new Map<string, Bounds>();
      const triangles = new Map<string, number>();
      let began = performance.now();
      for (const [index, mesh] of model.meshes.entries()) {
        this.geometries.set(`${asset}/${index}`, geometryOf(mesh, model.bounds[index]!));
        this.plantTree(`${asset}/${index}`);
        bounds.set(`${asset}/${index}`, model.bounds[index]!);
        triangles.set(`${asset}/${index}`, mesh.indices.length / 3);
        if (performance.now() - began < BREATH) continue;
        await new Promise((resolve) => setTimeout(resolve));
        began = performance.now();
      }
      this.loaded.add(asset);
      this.told.meshes(bounds, triangles);
      this.told.model();
      this.again();
    } catch (error) {
      this.geometries.delete(asset);
      this.told.failure(error instanceof Error ? error.message : String(error));
    }
  }

  /** Gives a geometry its tree for picking, once both are there. */
  private plantTree(mesh: string): void {
    const [geometry, tree] = [this.geometries.get(mesh), this.library.trees.get(mesh)];
    if (geometry && tree) geometry.boundsTree = MeshBVH.deserialize(tree, geometry, { setIndex: false });
  }

  private again(): void {
    if (this.view) this.show(this.view);
    this.told.changed();
  }
}

/** A part's transform with the part moved away from the middle of all. */
function drawnApart(part: PartState, { by, center, middles }: NonNullable<PartsView['apart']>): Transform {
  const middle = middles.get(part.instance);
  if (!middle) return part.transform;
  return part.transform.map((v, k) =>
    k % 4 === 3 ? v + (middle[(k - 3) / 4]! - center[(k - 3) / 4]!) * by : v,
  ) as unknown as Transform;
}
