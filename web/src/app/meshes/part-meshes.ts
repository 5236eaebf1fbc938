import * as THREE from 'three';
import { acceleratedRaycast } from 'three-mesh-bvh';
import { matteId } from '@zippy/core/develop';
import type { Finish, PictureFile, Vector3 } from '@zippy/core/document';
import type { Transform } from '@zippy/core/geometry';
import type { FrameState, PartState } from '@zippy/core/motion';
import { finishMaps } from '@zippy/core/trace';
import { inDrawingOrder, type GivenGeometries } from './drawing-portions';
import { areaOf, matrixOf, projectFromSides } from './sketch-geometry';
import type { LiveMaterials } from '../picture/live/live-materials';
import { PLATE_ORDER } from './drawing-order';
import type { SketchMeshes } from '../picture/sketch-meshes';

/** What is shown of the parts. */
export interface PartsView {
  frame: FrameState;
  /** Files of pictures, as the document names them. */
  pictures: Readonly<Record<string, PictureFile>>;
  /** Of the shot's picture. */
  aspect: number;
  selectedNodes: ReadonlySet<string>;
  isolated: ReadonlySet<string> | null;
  /** Parts that are lit while all others are dimmed; null dims nothing. */
  lit: ReadonlySet<string> | null;
  /** How far parts are drawn apart, and from where; null draws them where they are. */
  apart: { by: number; center: Vector3; middles: ReadonlyMap<string, Vector3> } | null;
}

/** Whether maps of a finish differ from part to part. */
const variesByPart = (finish: Finish): boolean => finishMaps(finish).some(({ source }) => source.kind === 'partRandom');

/** Tells a material that several parts wear which of them is drawn. */
const tellPart =
  (name: string): THREE.Mesh['onBeforeRender'] =>
  (_renderer, _scene, _camera, _geometry, material) => {
    const own = material as THREE.ShaderMaterial;
    if (!own.uniforms['partHash']) return;
    own.uniforms['partHash'].value = matteId(name);
    own.uniformsNeedUpdate = true;
  };
const tellNothing = (): void => undefined;

/** A part that a ray meets, drawn with a transform that may differ from its own. */
export interface PartHit {
  hit: THREE.Intersection;
  part: PartState;
  transform: Transform;
}

/** Layer of what nothing is seen through. */
export const SOLID_LAYER = 2;
/** Parts that are made in one task, so that the page answers meanwhile. */
const NEW_AT_ONCE = 500;
const AROUND = new THREE.Sphere();
const OWN = new THREE.Box3();

/** The parts as they are drawn in the sketch. */
export class PartMeshes {
  readonly group = new THREE.Group();
  /** The part that each mesh shows, whether it is to be seen, and whether it is to throw shadows. */
  private readonly shown = new Map<
    THREE.Mesh,
    { part: PartState; transform: Transform; seen: boolean; casts: boolean }
  >();
  private readonly meshes = new Map<string, THREE.Mesh>();
  private admitted: THREE.Mesh[] = [];
  private hovered: string | null = null;
  /** What is selected or pointed at. */
  outlined: THREE.Mesh[] = [];

  constructor(
    private readonly geometries: SketchMeshes,
    private readonly materials: LiveMaterials,
    private readonly given: GivenGeometries,
  ) {}

  /** Lights a part up from the next `show` on, while something is dragged over it. @returns whether that is new */
  hover(node: string | null): boolean {
    const changed = node !== this.hovered;
    this.hovered = node;
    return changed;
  }

  /** All parts that a ray meets, the nearest first, each once. */
  cast(ray: THREE.Raycaster): PartHit[] {
    // They may have been moved since they were drawn last.
    this.group.updateMatrixWorld();
    const near = this.allSeen().filter(({ geometry, matrixWorld }) =>
      ray.ray.intersectsSphere(AROUND.copy(geometry.boundingSphere!).applyMatrix4(matrixWorld)),
    );
    const hits = ray.intersectObjects(near, false);
    const seen = new Set<string>();
    return hits.flatMap((hit) => {
      if (seen.has(hit.object.name)) return [];
      seen.add(hit.object.name);
      return [{ hit, ...this.shown.get(hit.object as THREE.Mesh)! }];
    });
  }

  /** The ball that holds all parts that are seen, for shadows and near planes. */
  ball(): THREE.Sphere {
    this.group.updateMatrixWorld();
    const box = new THREE.Box3();
    for (const mesh of this.allSeen()) box.union(OWN.copy(mesh.geometry.boundingBox!).applyMatrix4(mesh.matrixWorld));
    return box.isEmpty() ? new THREE.Sphere(new THREE.Vector3(), 0) : box.getBoundingSphere(new THREE.Sphere());
  }

  /** Nodes of parts that lie wholly within a rectangle of the canvas (0 to 1 from the top left), hidden behind others too. */
  within(camera: THREE.Camera, left: number, top: number, right: number, bottom: number): string[] {
    this.group.updateMatrixWorld();
    const corner = new THREE.Vector3();
    const found = new Set<string>();
    for (const [mesh, { part, seen }] of this.shown) {
      if (!seen) continue;
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

  /**
   * Shows parts as far as their meshes are there and have been given to the graphics card; see `admit`.
   * @returns whether there are so many new parts that some are left for the next time
   */
  show(view: PartsView): boolean {
    const { frame, selectedNodes, isolated, lit: litParts, apart, pictures, aspect } = view;
    const seenBy = { camera: frame.camera, aspect };
    const seen = new Set<string>();
    let room = NEW_AT_ONCE;
    this.outlined = [];
    for (const part of frame.parts) {
      const geometry = this.geometries.of(part.mesh);
      if (!geometry) continue;
      let mesh = this.meshes.get(part.instance);
      if (!mesh) {
        if (room-- <= 0) continue;
        mesh = new THREE.Mesh(geometry);
        mesh.name = part.node;
        mesh.matrixAutoUpdate = false;
        mesh.raycast = acceleratedRaycast;
        this.meshes.set(part.instance, mesh);
        this.group.add(mesh);
      }
      const transform = apart ? drawnApart(part, apart) : part.transform;
      // What the camera does not see is seen while it is selected, so that one can get at it.
      const unseen = !part.seen.visibleToCamera && !selectedNodes.has(part.node);
      const there = isolated === null || isolated.has(part.node);
      const visible = !unseen && there;
      this.shown.set(mesh, {
        part,
        transform,
        seen: visible,
        casts: there && part.seen.castsShadows && part.seen.ofPlate === 'no',
      });
      mesh.geometry = geometry;
      mesh.matrix.copy(matrixOf(transform));
      mesh.matrixWorldNeedsUpdate = true;
      mesh.visible = visible && this.given.has(geometry);
      const finish = part.finish ? frame.finishes[part.finish] : undefined;
      const dimmed = litParts !== null && !litParts.has(part.node);
      if (visible && (part.node === this.hovered || selectedNodes.has(part.node))) this.outlined.push(mesh);
      if (finish && Object.keys(finish.maps).length > 0 && !geometry.hasAttribute('uv')) projectFromSides(geometry);
      mesh.material = this.materials.of(
        finish,
        part.glow,
        () => areaOf(geometry, part.transform),
        dimmed,
        pictures,
        seenBy,
        part.seen.ofPlate,
      );
      const plain = part.seen.ofPlate === 'no';
      mesh.renderOrder = plain ? 0 : PLATE_ORDER;
      mesh.onBeforeRender = finish && variesByPart(finish) ? tellPart(part.name) : tellNothing;
      // Each of several materials draws the whole mesh.
      if (Array.isArray(mesh.material) && geometry.groups.length === 0)
        for (const k of mesh.material.keys()) geometry.addGroup(0, Infinity, k);
      if (!plain || Array.isArray(mesh.material) || mesh.material.transparent) mesh.layers.disable(SOLID_LAYER);
      else mesh.layers.enable(SOLID_LAYER);
      seen.add(part.instance);
    }
    for (const [instance, mesh] of this.meshes) {
      if (seen.has(instance)) continue;
      this.group.remove(mesh);
      this.shown.delete(mesh);
      this.meshes.delete(instance);
    }
    return room < 0;
  }

  /**
   * Lets some of the parts be drawn whose meshes the graphics card does not have yet, so many that the page is not held up.
   * @returns whether more of them wait
   */
  admit(): boolean {
    for (const mesh of this.admitted) mesh.frustumCulled = true;
    const waiting = this.allSeen().filter((mesh) => !mesh.visible);
    this.admitted = this.given.take(waiting, 0);
    for (const mesh of this.admitted) {
      mesh.visible = true;
      // What is out of sight would else be given with all others once the view is turned to it.
      mesh.frustumCulled = false;
    }
    return this.admitted.length < waiting.length;
  }

  /** The parts in portions that can be drawn one over the other, each in a task of its own. */
  *portions(): Generator<THREE.Mesh[]> {
    const meshes = inDrawingOrder(this.allSeen());
    for (let at = 0; at < meshes.length;) {
      const portion = this.given.take(meshes, at);
      at += portion.length;
      yield portion;
    }
  }

  /** Leaves only some of the parts to be drawn, until they are shown again. */
  only(meshes: readonly THREE.Mesh[]): void {
    for (const mesh of this.shown.keys()) mesh.visible = false;
    for (const mesh of meshes) {
      mesh.visible = true;
      mesh.frustumCulled = false;
    }
  }

  /** Draws with just those parts that throw shadows, whether the camera sees them or not. */
  whileCasting(draw: () => void): void {
    const before: [THREE.Mesh, boolean][] = [];
    for (const [mesh, { seen, casts }] of this.shown) {
      // What is to be seen and waits to be given to the graphics card throws its shadow once it is.
      const throws = casts && (!seen || mesh.visible);
      if (throws === mesh.visible) continue;
      before.push([mesh, mesh.visible]);
      mesh.visible = throws;
    }
    draw();
    for (const [mesh, visible] of before) mesh.visible = visible;
  }

  private allSeen(): THREE.Mesh[] {
    return [...this.shown].flatMap(([mesh, { seen }]) => (seen ? [mesh] : []));
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
