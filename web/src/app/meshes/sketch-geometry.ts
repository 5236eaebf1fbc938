import * as THREE from 'three';
import {
  centreOf,
  halfDiagonal,
  sideCoordinates,
  type Bounds,
  type Transform,
  type TriangleMesh,
} from '@zippy/core/geometry';

/** @param bounds its box, told so that nothing looks through all of its vertices for it */
export function geometryOf(mesh: TriangleMesh, bounds: Bounds): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normals, 3));
  if (mesh.uvs) geometry.setAttribute('uv', new THREE.BufferAttribute(mesh.uvs, 2));
  geometry.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
  geometry.boundingBox = new THREE.Box3(new THREE.Vector3(...bounds.low), new THREE.Vector3(...bounds.high));
  geometry.boundingSphere = new THREE.Sphere(new THREE.Vector3(...centreOf(bounds)), halfDiagonal(bounds));
  return geometry;
}

/** Gives a geometry that brought no coordinates those the tracer uses. */
export function projectFromSides(geometry: THREE.BufferGeometry): void {
  const array = (name: string) => geometry.getAttribute(name).array as Float32Array;
  const indices = geometry.getIndex()!.array as Uint32Array;
  const uvs = sideCoordinates({ positions: array('position'), normals: array('normal'), indices });
  geometry.setAttribute('uv', new THREE.BufferAttribute(uvs, 2));
}

/** The rows of a transform as a matrix takes them. */
export const matrixOf = (m: Transform): THREE.Matrix4 => new THREE.Matrix4().set(...m, 0, 0, 0, 1);

const areas = new WeakMap<THREE.BufferGeometry, number>();

/** Surface of a geometry once it is placed, mm²: of one that is stretched, about. */
export function areaOf(geometry: THREE.BufferGeometry, m: Transform): number {
  let own = areas.get(geometry);
  if (own === undefined) {
    own = 0;
    const at = geometry.getAttribute('position').array as Float32Array;
    const indices = geometry.getIndex()!.array as Uint32Array;
    const [a, b, c] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
    for (let k = 0; k < indices.length; k += 3) {
      a.fromArray(at, indices[k]! * 3);
      own += b.fromArray(at, indices[k + 1]! * 3).sub(a).cross(c.fromArray(at, indices[k + 2]! * 3).sub(a)).length() / 2; // prettier-ignore
    }
    areas.set(geometry, own);
  }
  return own * Math.abs(matrixOf(m).determinant()) ** (2 / 3);
}
