import * as THREE from 'three';
import type { Light, Vector3 } from '@zippy/core/document';

/** A place in the world that is pointed out, with a line through it or a ring round it. */
export interface Mark {
  point: Vector3;
  line?: { direction: Vector3; length: number };
  ring?: { axis: Vector3; radius: number };
}

/** Half the length of a helper's arms in millimetres. */
const HELPER = 14;

/** The cross of a helper, in its own space. */
export const helperFigure = (color: number): THREE.LineSegments =>
  new THREE.LineSegments(
    new THREE.BufferGeometry().setFromPoints(
      [0, 1, 2].flatMap((k) => [-HELPER, HELPER].map((v) => new THREE.Vector3().setComponent(k, v))),
    ),
    new THREE.LineBasicMaterial({ color }),
  );

/** Figures that point something out, drawn over everything, as large from wherever it is seen. */
export function markFigures({ point, line, ring }: Mark, color: number, eye: THREE.Vector3): THREE.Object3D[] {
  const place = new THREE.Vector3(...point);
  const over = { color, depthTest: false, transparent: true };
  const dot = new THREE.Mesh(new THREE.SphereGeometry(1, 12, 8), new THREE.MeshBasicMaterial(over));
  dot.position.copy(place);
  dot.scale.setScalar(place.distanceTo(eye) * 0.004);
  const figures: THREE.Object3D[] = [dot];
  if (line) {
    const half = new THREE.Vector3(...line.direction).multiplyScalar(line.length / 2);
    const ends = new THREE.BufferGeometry().setFromPoints([place.clone().sub(half), place.clone().add(half)]);
    const dashes = { dashSize: line.length / 40, gapSize: line.length / 80 };
    figures.push(new THREE.Line(ends, new THREE.LineDashedMaterial({ ...over, ...dashes })).computeLineDistances());
  }
  if (ring) {
    const round = new THREE.LineLoop(
      new THREE.BufferGeometry().setFromPoints(new THREE.EllipseCurve(0, 0, ring.radius, ring.radius).getPoints(64)),
      new THREE.LineBasicMaterial(over),
    );
    round.position.copy(place);
    round.quaternion.setFromUnitVectors(new THREE.Vector3(0, 0, 1), new THREE.Vector3(...ring.axis).normalize());
    figures.push(round);
  }
  for (const each of figures) each.renderOrder = 10;
  return figures;
}

/** Lines of a lamp that shines along its z axis. */
export function lampOutline(light: Light): THREE.BufferGeometry {
  switch (light.kind) {
    case 'panel':
      return new THREE.EdgesGeometry(new THREE.PlaneGeometry(light.width, light.height));
    case 'disc':
      return new THREE.EdgesGeometry(new THREE.CircleGeometry(light.radius, 32));
    case 'tube':
      return new THREE.EdgesGeometry(
        new THREE.CylinderGeometry(light.radius, light.radius, light.width, 8).rotateZ(Math.PI / 2),
      );
    case 'spot': {
      const length = light.radius * 3;
      const mouth = light.radius + length * Math.tan(Math.min(1.2, light.coneAngle / 2));
      return new THREE.EdgesGeometry(
        new THREE.CylinderGeometry(mouth, light.radius, length, 12, 1, true)
          .rotateX(Math.PI / 2)
          .translate(0, 0, length / 2),
      );
    }
    default:
      return new THREE.WireframeGeometry(new THREE.SphereGeometry(light.radius, 10, 6));
  }
}
