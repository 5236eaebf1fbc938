import * as THREE from 'three';
import { newFinish, type Camera } from '@zippy/core/document';
import { boundsOfPositions, floorMesh, sweepMesh } from '@zippy/core/geometry';
import type { FrameState } from '@zippy/core/motion';
import { geometryOf } from '../meshes/sketch-geometry';
import type { LightRig } from './live/light-rig';
import { PLATE_ORDER } from '../meshes/drawing-order';
import { surfaceMaterial } from './live/live-materials';

/** The floor or sweep of the set. */
export class SketchFloor {
  readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>;
  private key = '';
  private worn = '';

  constructor(private readonly rig: LightRig) {
    this.mesh = new THREE.Mesh(new THREE.BufferGeometry(), surfaceMaterial(rig, newFinish()));
  }

  show({ floor: { kind, size, depth, color, roughness, turn, catches } }: FrameState['set'], visible: boolean): void {
    this.mesh.visible = kind !== 'none' && visible;
    const key = `${kind}/${size}/${depth}`;
    if (key !== this.key && kind !== 'none') {
      this.key = key;
      this.mesh.geometry.dispose();
      const mesh = kind === 'sweep' ? sweepMesh(size, depth) : floorMesh(size);
      this.mesh.geometry = geometryOf(mesh, boundsOfPositions(mesh.positions));
    }
    // A program that may leave something out shades what is hidden too: only where there is an opening.
    const cuttable = this.rig.uniforms.cutCount.value > 0;
    const worn = `${color.join()}/${roughness}/${catches}/${cuttable}`;
    if (worn !== this.worn) {
      this.worn = worn;
      this.mesh.material = surfaceMaterial(this.rig, newFinish({ baseColor: color, specularRoughness: roughness }), {
        ofPlate: catches ? 'catches' : 'no',
        cuttable,
      });
      this.mesh.renderOrder = catches ? PLATE_ORDER : 0;
    }
    // As in the tracer, but for a part that lies on it and must not flicker through.
    this.mesh.material.polygonOffset = true;
    this.mesh.material.polygonOffsetFactor = this.mesh.material.polygonOffsetUnits = 1;
    this.mesh.rotation.y = turn;
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
