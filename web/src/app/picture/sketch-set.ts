import * as THREE from 'three';
import type { Camera } from '@zippy/core/document';
import { boundsOfPositions, floorMesh, sweepMesh } from '@zippy/core/geometry';
import type { FrameState } from '@zippy/core/motion';
import { geometryOf } from '../meshes/sketch-geometry';

/** The two plain lights of the sketch. */
export function sketchLights(): THREE.Light[] {
  const sky = new THREE.HemisphereLight(0xffffff, 0x77777a, 1.7);
  const key = new THREE.DirectionalLight(0xffffff, 1.9);
  key.position.set(-0.6, 1, 0.8);
  return [sky, key];
}

const floorMaterial = (side: THREE.Side) => new THREE.MeshLambertMaterial({ side });

/** One of each material the floor may have; see `SketchPrograms`. */
export const floorExamples = (): THREE.Material[] => [floorMaterial(THREE.DoubleSide), floorMaterial(THREE.FrontSide)];

/** The floor or sweep of the set. */
export class SketchFloor {
  readonly mesh = new THREE.Mesh(new THREE.BufferGeometry(), floorMaterial(THREE.DoubleSide));
  private key = '';

  show({ floor: { kind, size, depth, color, turn } }: FrameState['set'], visible: boolean): void {
    this.mesh.visible = kind !== 'none' && visible;
    const key = `${kind}/${size}/${depth}`;
    if (key !== this.key && kind !== 'none') {
      this.key = key;
      this.mesh.geometry.dispose();
      const mesh = kind === 'sweep' ? sweepMesh(size, depth) : floorMesh(size);
      this.mesh.geometry = geometryOf(mesh, boundsOfPositions(mesh.positions));
    }
    this.mesh.position.y = -0.3;
    this.mesh.rotation.y = turn;
    this.mesh.material.color.setRGB(...color);
  }

  /** Whether what stands before it is seen from behind it. */
  set seenThrough(seen: boolean) {
    this.mesh.material.side = seen ? THREE.FrontSide : THREE.DoubleSide;
  }
}

/** Parts of the distance of what is looked at from which on, and up to which, a camera of the sketch sees. */
const NEAREST = 1 / 160;
const FARTHEST = 100;

/** Has a camera see from a small part of the way to what it looks at to far behind it, whatever its size. */
export function reach(camera: THREE.PerspectiveCamera, distance: number): void {
  camera.near = Math.max(1e-4, distance * NEAREST);
  camera.far = Math.max(1, distance) * FARTHEST;
  camera.updateProjectionMatrix();
}

/** Puts a camera where one of the document stands; `margin` 1 shows just the film's frame from top to bottom. */
export function aimCamera(to: THREE.PerspectiveCamera, camera: Camera, aspect: number, margin: number): void {
  const tanY = camera.sensorWidth / 2 / camera.focalLength / aspect;
  to.fov = (2 * Math.atan(tanY * margin) * 180) / Math.PI;
  to.position.set(...camera.position);
  to.up.set(0, 1, 0);
  to.lookAt(...camera.target);
  to.rotateZ(-camera.roll);
  reach(to, Math.hypot(...camera.position.map((v, k) => v - camera.target[k]!)));
  to.updateMatrixWorld();
}
