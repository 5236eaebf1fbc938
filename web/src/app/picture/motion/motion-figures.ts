import * as THREE from 'three';
import type { MeshRef, Vector3 } from '@zippy/core/document';
import type { MotionPath } from '@zippy/core/motion';
import { cameraFigure, lampFigure } from '../figures';
import { matrixOf } from '../../meshes/sketch-geometry';
import type { Ghost, SeenMotion } from './motion-seen';

const WAY = 0xdfe3e6;
const KEY = 0x4fcfae;
const NOW = 0xffffff;
const BEFORE = 0xe8a15c;
const AFTER = 0x7fb2e8;
/** Pixels of a tick for each frame, a key, and the present place. */
const TICK = 3;
const KEY_SIZE = 9;
const NOW_SIZE = 6;
/** Pixels from a mark within which it is taken. */
export const NEAR_MARK = 9;

type PathKey = MotionPath['keys'][number];

const over = { depthTest: false, depthWrite: false, transparent: true };

/** The path of what is selected with a tick for each frame and a mark for each key, and ghosts of it, drawn over the picture. */
export class MotionFigures {
  readonly group = new THREE.Group();
  private readonly materials = {
    way: new THREE.LineBasicMaterial({ ...over, color: WAY, opacity: 0.55 }),
    tick: new THREE.PointsMaterial({ ...over, color: WAY, size: TICK, sizeAttenuation: false }),
    key: new THREE.PointsMaterial({ ...over, color: KEY, size: KEY_SIZE, sizeAttenuation: false }),
    now: new THREE.PointsMaterial({ ...over, color: NOW, size: NOW_SIZE, sizeAttenuation: false }),
    before: new THREE.MeshBasicMaterial({ ...over, color: BEFORE, opacity: 0.16 }),
    after: new THREE.MeshBasicMaterial({ ...over, color: AFTER, opacity: 0.16 }),
  };
  private readonly way = new THREE.Group();
  private readonly ghosts = new THREE.Group();
  private readonly nowPoint = new THREE.Points(placesOf([[0, 0, 0]]), this.materials.now);
  private shown: SeenMotion | null = null;

  constructor() {
    this.nowPoint.renderOrder = ABOVE + 1;
    this.nowPoint.frustumCulled = false;
    this.group.add(this.way, this.ghosts, this.nowPoint);
  }

  /** @param geometryOf the geometry of a mesh that is there @param aspect of the picture */
  show(seen: SeenMotion, geometryOf: (mesh: MeshRef) => THREE.BufferGeometry | null, aspect: number): void {
    const { path, now, before, after } = seen;
    if (path !== this.shown?.path) this.showWay(path);
    if (seen !== this.shown && before.length + after.length + this.ghosts.children.length > 0) {
      empty(this.ghosts);
      this.addGhosts(before, this.materials.before, BEFORE, geometryOf, aspect);
      this.addGhosts(after, this.materials.after, AFTER, geometryOf, aspect);
    }
    this.shown = seen;
    this.nowPoint.visible = path !== null;
    if (!path) return;
    const at = path.frames.findLastIndex((frame) => frame <= now);
    this.nowPoint.position.set(...path.places[Math.max(0, at)]!);
  }

  private showWay(path: MotionPath | null): void {
    empty(this.way);
    if (!path) return;
    const { way, tick, key } = this.materials;
    const places = placesOf(path.places);
    const keys = placesOf(path.keys.map(({ place }) => place));
    for (const figure of [new THREE.Line(places, way), new THREE.Points(places, tick), new THREE.Points(keys, key)])
      addOver(this.way, figure);
  }

  /** The key of the path under a point of the canvas, in parts of it from its top left. */
  keyAt(
    x: number,
    y: number,
    camera: THREE.Camera,
    canvas: { clientWidth: number; clientHeight: number },
  ): PathKey | null {
    let best = NEAR_MARK;
    let found: PathKey | null = null;
    for (const key of this.shown?.path?.keys ?? []) {
      const away = pixelsApart(key.place, x, y, camera, canvas);
      if (away > best) continue;
      best = away;
      found = key;
    }
    return found;
  }

  /** Frame and place of every key of the path, in parts of the canvas from its top left, for tests and assistive tools. */
  keysOnCanvas(camera: THREE.Camera): string {
    const keys = this.shown?.path?.keys ?? [];
    return keys.map(({ frame, place }) => [frame, ...onCanvas(place, camera)].join(' ')).join(', ');
  }

  private addGhosts(
    ghosts: readonly Ghost[],
    material: THREE.Material,
    color: number,
    geometryOf: (mesh: MeshRef) => THREE.BufferGeometry | null,
    aspect: number,
  ): void {
    for (const { part, light, camera } of ghosts) {
      if (light) addOver(this.ghosts, lampFigure(light, color));
      if (camera) addOver(this.ghosts, cameraFigure(camera, aspect, color));
      const geometry = part && geometryOf(part.mesh);
      if (!geometry) continue;
      const mesh = new THREE.Mesh(geometry, material);
      mesh.matrixAutoUpdate = false;
      mesh.matrix.copy(matrixOf(part.transform));
      mesh.userData['shared'] = true;
      addOver(this.ghosts, mesh);
    }
  }
}

/** Lies over the picture and what else is drawn there. */
const ABOVE = 5;

function addOver(group: THREE.Group, figure: THREE.Object3D): void {
  figure.renderOrder = ABOVE;
  group.add(figure);
}

/** Gives back what a group holds, but for geometries that are others'. */
function empty(group: THREE.Group): void {
  group.traverse((each) => {
    const drawn = each instanceof THREE.Line || each instanceof THREE.Points || each instanceof THREE.Mesh;
    if (drawn && !each.userData['shared']) (each.geometry as THREE.BufferGeometry).dispose();
  });
  group.clear();
}

/** Pixels from a place in the world to a point of the canvas, in parts of it from its top left; without end behind the view. */
export function pixelsApart(
  place: Vector3,
  x: number,
  y: number,
  camera: THREE.Camera,
  canvas: { clientWidth: number; clientHeight: number },
): number {
  const seen = new THREE.Vector3(...place).project(camera);
  if (seen.z > 1) return Infinity;
  return Math.hypot(((seen.x + 1) / 2 - x) * canvas.clientWidth, ((1 - seen.y) / 2 - y) * canvas.clientHeight);
}

/** A place in the world as parts of the canvas from its top left. */
export function onCanvas(place: Vector3, camera: THREE.Camera): string[] {
  const { x, y } = new THREE.Vector3(...place).project(camera);
  return [(x + 1) / 2, (1 - y) / 2].map((v) => v.toFixed(4));
}

const placesOf = (places: readonly (readonly number[])[]): THREE.BufferGeometry =>
  new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places.flat(), 3));
