import * as THREE from 'three';
import type { Camera, Light, Vector3 } from '@zippy/core/document';
import { lightColor, shiningLamp } from '@zippy/core/optics';

/** A place in the world that is pointed out, with a line through it or a ring round it. */
export interface Mark {
  point: Vector3;
  line?: { direction: Vector3; length: number };
  ring?: { axis: Vector3; radius: number };
}

/** Half the length of a helper's arms, of the distance from which it is seen: as large in a watch as in a hall. */
const HELPER = 0.0175;

/** The cross of a helper, for a distance of 1; see `asSeen`. */
export const helperFigure = (color: number): THREE.LineSegments =>
  new THREE.LineSegments(
    new THREE.BufferGeometry().setFromPoints(
      [0, 1, 2].flatMap((k) => [-HELPER, HELPER].map((v) => new THREE.Vector3().setComponent(k, v))),
    ),
    new THREE.LineBasicMaterial({ color }),
  );

/** Where something is aimed. */
export function aimFigure(place: Vector3, color: number): THREE.Points {
  const points = new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(...place)]);
  const over = { color, depthTest: false, transparent: true };
  return new THREE.Points(points, new THREE.PointsMaterial({ ...over, size: AIM_SIZE, sizeAttenuation: false }));
}

/** Pixels. */
const AIM_SIZE = 10;

/** Gives a figure the size in which it is seen from a camera as from anywhere else. */
export function asSeen(figure: THREE.Object3D, eye: THREE.Vector3): void {
  figure.scale.setScalar(Math.max(1e-6, figure.position.distanceTo(eye)));
}

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

/** A lamp as it stands: its outline, a sheet of its own light, what a spot's cone reaches, and a line to what it is aimed at. */
export function lampFigure(lamp: Light, color: number): THREE.Group {
  const light = shiningLamp(lamp, Math.hypot(...lamp.position.map((v, k) => v - lamp.target[k]!)));
  const figure = new THREE.Group();
  figure.position.set(...light.position);
  figure.lookAt(...light.target);
  figure.rotateZ(light.roll);
  figure.add(new THREE.LineSegments(lampOutline(light), new THREE.LineBasicMaterial({ color })));
  const [r, g, b] = lightColor(light.kelvin, light.tint);
  const most = Math.max(r, g, b, 1e-6);
  const lit = light.on && light.power > 0;
  const sheet = new THREE.Mesh(
    lampSurface(light),
    new THREE.MeshBasicMaterial({
      color: new THREE.Color(r / most, g / most, b / most),
      side: THREE.DoubleSide,
      transparent: true,
      // As bright as it is strong, by its logarithm.
      opacity: lit ? Math.min(0.9, 0.25 + 0.14 * Math.log10(1 + light.power)) : 0.05,
      depthWrite: false,
    }),
  );
  figure.add(sheet);
  const distance = Math.hypot(...light.position.map((v, k) => v - light.target[k]!));
  const lines = [new THREE.Vector3(), new THREE.Vector3(0, 0, distance)];
  if (light.kind === 'spot') {
    const wide = distance * Math.tan(Math.min(1.4, light.coneAngle / 2));
    for (let k = 0; k < 8; k++) {
      const [x, y] = [Math.cos((k * Math.PI) / 4) * wide, Math.sin((k * Math.PI) / 4) * wide];
      lines.push(new THREE.Vector3(), new THREE.Vector3(x, y, distance));
    }
  }
  const dashes = { color, opacity: light.on ? 0.5 : 0.12, transparent: true };
  const aim = new THREE.LineSegments(
    new THREE.BufferGeometry().setFromPoints(lines),
    new THREE.LineDashedMaterial({ ...dashes, dashSize: distance / 40, gapSize: distance / 40 }),
  );
  figure.add(aim.computeLineDistances());
  return figure;
}

/** A camera with the pyramid of what it sees. @param aspect of its picture */
export function cameraFigure(camera: Camera, aspect: number, color: number): THREE.Group {
  const figure = new THREE.Group();
  figure.position.set(...camera.position);
  figure.lookAt(...camera.target);
  figure.rotateZ(camera.roll);
  const depth = Math.hypot(...camera.position.map((v, k) => v - camera.target[k]!)) * CAMERA_DEPTH;
  const parallel = camera.projection === 'orthographic';
  const wide = parallel ? camera.orthographicWidth / 2 : (depth * camera.sensorWidth) / 2 / camera.focalLength;
  const high = wide / aspect;
  const corners = [[-wide, -high], [wide, -high], [wide, high], [-wide, high]].map(([x, y]) => new THREE.Vector3(x, y, depth)); // prettier-ignore
  const lines = corners.flatMap((corner, k) => [
    parallel ? corner.clone().setZ(0) : new THREE.Vector3(),
    corner,
    corner,
    corners[(k + 1) % 4]!,
  ]);
  // Which way is up.
  const up = [new THREE.Vector3(-wide / 3, high, depth), new THREE.Vector3(0, high * 1.35, depth), new THREE.Vector3(wide / 3, high, depth)]; // prettier-ignore
  lines.push(up[0]!, up[1]!, up[1]!, up[2]!);
  figure.add(
    new THREE.LineSegments(new THREE.BufferGeometry().setFromPoints(lines), new THREE.LineBasicMaterial({ color })),
  );
  return figure;
}

/** Of the way to what a camera looks at, that its pyramid is long. */
const CAMERA_DEPTH = 0.09;

/** What a lamp shines from, along its z axis. */
function lampSurface(light: Light): THREE.BufferGeometry {
  switch (light.kind) {
    case 'panel':
      return new THREE.PlaneGeometry(light.width, light.height);
    case 'tube':
      return new THREE.CylinderGeometry(light.radius, light.radius, light.width, 12).rotateZ(Math.PI / 2);
    case 'bulb':
    case 'sun':
      return new THREE.SphereGeometry(light.radius, 16, 10);
    default:
      return new THREE.CircleGeometry(light.radius, 32);
  }
}

/** Lines of a lamp that shines along its z axis. */
function lampOutline(light: Light): THREE.BufferGeometry {
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
