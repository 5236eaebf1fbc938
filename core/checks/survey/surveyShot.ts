import { inOrder, meshKey, type Camera, type ProjectDocument, type SceneNode, type Shot } from '../../document';
import {
  centreOf,
  corners,
  halfDiagonal,
  invertTransform,
  transformPoint,
  type Bounds,
  type Transform,
  type Vector,
} from '../../geometry';
import { evaluateProperties } from '../../motion';
import { placedAimed, placeNode, type PlacedNode } from '../../scene';
import { backdropEdge } from './backdrop';
import { project, seenBy, type Seen } from './seen';

/** The shapes of meshes by their keys: their boxes, and vertices of their hulls. */
export type Shapes = ReadonlyMap<string, { bounds: Bounds; outline: Float32Array }>;

/**
 * What happens within a shot that nobody wants to find in the finished film: what shall be seen leaves the picture, it is not sharp,
 * the backdrop ends in the picture, the camera is inside a part, something is too fast for the shutter, a lamp comes into the picture.
 */
export type ShotFaultKind = 'leaves' | 'blurred' | 'edge' | 'inside' | 'fast' | 'lamp';

export interface ShotFault {
  kind: ShotFaultKind;
  /** Frames on which it is so, from and to. */
  spans: [number, number][];
  /** The frame on which it is worst. */
  worst: number;
  /** How far: of what leaves, times the half picture; of what is fast, pictures a frame. */
  amount: number;
  /** Id of the part or lamp. */
  thing: string | null;
}

/** What a shot was found to be. */
export interface Surveyed {
  faults: ShotFault[];
  /** How far what shall be seen reaches out at most, times the half picture; infinite where it is behind the camera. */
  reach: number;
}

/** Frames that are looked at; of longer shots every second one, third, and so on. */
const MOST_FRAMES = 600;
/** Copies of one part that are looked at. */
const MOST_COPIES = 200;
/** Of a part's box, the part from its middle that counts as inside. */
const INSIDE = 0.9;
/** Pictures a frame beyond which something that is not blurred is seen to jump. */
const FAST = 0.06;
/** Radians of the shutter below which motion is hardly blurred. */
const SHORT_SHUTTER = Math.PI / 3;
/** Part of the sensor's width that still looks like a point. */
const POINT = 1 / 1500;

/** What is seen of one frame. */
interface Look {
  frame: number;
  reach: number;
  lost: boolean;
  edge: boolean;
  inside: string | null;
  speed: number;
  lamp: string | null;
}

/**
 * Looks at every frame of a shot through its camera.
 * @param aspect width of the picture by its height
 * @returns null where the shot has no camera, or nothing in it can be seen
 */
export function surveyShot(document: ProjectDocument, shot: Shot, shapes: Shapes, aspect: number): Surveyed | null {
  if (!shot.camera || !document.cameras[shot.camera]) return null;
  const edgeIn = backdropEdge(document.set);
  const stride = Math.max(1, Math.ceil(shot.length / MOST_FRAMES));
  const kept = keptParts(document, shot);
  const looks: Look[] = [];
  let before: Map<string, [number, number]> | null = null;
  for (let frame = 1; frame <= shot.length; frame += stride) {
    const state = evaluateProperties(document, shot, frame);
    const world = new Map<string, PlacedNode>();
    const aimed = placedAimed(state, world);
    const camera = aimed.cameras[shot.camera]!;
    const seen = seenBy(camera, aspect);
    let reach = 0;
    let inside: string | null = null;
    const places = new Map<string, [number, number]>();
    let [nearest, farthest] = [Infinity, -Infinity];
    for (const node of inOrder(state.nodes)) {
      if (!node.mesh || 'piece' in node.mesh) continue;
      const placed = placeNode(state, node, world);
      const shape = shapes.get(meshKey(node.mesh));
      if (!placed.visible || !placed.seen.visibleToCamera || !shape) continue;
      const counts = kept === null || kept.has(node.id);
      placed.instances.slice(0, MOST_COPIES).forEach((transform, k) => {
        if (within(camera, transform, shape.bounds)) inside ??= node.id;
        const middle = project(seen, transformPoint(transform, centreOf(shape.bounds)));
        if (middle.depth > 0) places.set(`${node.id}/${k}`, [middle.x, middle.y]);
        if (!counts) return;
        const around = halfDiagonal(shape.bounds) * growth(transform);
        nearest = Math.min(nearest, middle.depth - around);
        farthest = Math.max(farthest, middle.depth + around);
        // What cannot reach farther out than another part does already is not looked at closer.
        if (farthestOut(seen, middle, around) <= reach) return;
        for (const point of pointsOf(shape)) {
          const { x, y, depth } = project(seen, transformPoint(transform, point));
          const out = depth <= 0 && camera.projection === 'perspective' ? Infinity : Math.max(Math.abs(x), Math.abs(y));
          reach = Math.max(reach, out);
        }
      });
    }
    if (farthest === -Infinity) return null;
    looks.push({
      frame,
      reach,
      lost: kept !== null && !isSharp(camera, (nearest + farthest) / 2),
      edge: edgeIn?.(seen) ?? false,
      inside,
      // A shot that is not in the film is no motion: its frames are looked at one by one.
      speed: shot.included && camera.shutterAngle < SHORT_SHUTTER ? fastest(before, places) / stride : 0,
      lamp: lampIn(aimed.lights, seen),
    });
    before = places;
  }
  return { faults: faultsOf(looks, kept !== null), reach: Math.max(...looks.map(({ reach }) => reach)) };
}

/** What has to stay in the picture: the parts that were chosen with all below them, or null for the whole product. */
function keptParts(document: ProjectDocument, { framed }: Shot): ReadonlySet<string> | null {
  const there = framed.filter((id) => document.nodes[id]);
  if (there.length === 0) return null;
  const kept = new Set(there);
  const isKept = (node: SceneNode): boolean =>
    kept.has(node.id) || (node.parent !== null && isKept(document.nodes[node.parent]!));
  return new Set(Object.values(document.nodes).flatMap((node) => (isKept(node) ? [node.id] : [])));
}

function* pointsOf({ bounds, outline }: { bounds: Bounds; outline: Float32Array }): Iterable<Vector> {
  if (outline.length === 0) yield* corners(bounds);
  for (let at = 0; at < outline.length; at += 3) yield [outline[at]!, outline[at + 1]!, outline[at + 2]!];
}

/** The most by which a transform makes anything longer. */
const growth = (m: Transform): number => Math.max(...[0, 1, 2].map((k) => Math.hypot(m[k]!, m[4 + k]!, m[8 + k]!)));

/** How far out a ball can reach at most, times the half picture. */
function farthestOut(
  { camera, halfWidth, halfHeight }: Seen,
  { x, y, depth }: ReturnType<typeof project>,
  radius: number,
): number {
  const parallel = camera.projection === 'orthographic';
  const near = parallel ? 1 : depth - radius;
  if (near <= 0) return Infinity;
  const by = parallel ? 1 : depth;
  return Math.max((Math.abs(x) * by + radius / halfWidth) / near, (Math.abs(y) * by + radius / halfHeight) / near);
}

function within({ position }: Camera, transform: Transform, { low, high }: Bounds): boolean {
  const inverse = invertTransform(transform);
  if (!inverse) return false;
  const local = transformPoint(inverse, position);
  return local.every((v, k) => {
    const half = ((high[k]! - low[k]!) / 2) * INSIDE;
    return half > 0 && Math.abs(v - (low[k]! + high[k]!) / 2) < half;
  });
}

/** Whether something at a depth looks sharp: between the ends of the depth of field (Ray, Applied Photographic Optics, 2002, section 22). */
function isSharp({ fStop, focalLength, focusDistance, sensorWidth }: Camera, depth: number): boolean {
  if (fStop === 0) return true;
  const hyperfocal = (focalLength * focalLength) / (fStop * sensorWidth * POINT) + focalLength;
  const near = (focusDistance * (hyperfocal - focalLength)) / (hyperfocal + focusDistance - 2 * focalLength);
  const far =
    focusDistance < hyperfocal ? (focusDistance * (hyperfocal - focalLength)) / (hyperfocal - focusDistance) : Infinity;
  return depth >= near && depth <= far;
}

/** How far across the picture anything in it has come since the frame before, in pictures. */
function fastest(
  before: ReadonlyMap<string, [number, number]> | null,
  now: ReadonlyMap<string, [number, number]>,
): number {
  let most = 0;
  for (const [id, [x, y]] of now) {
    const from = before?.get(id);
    if (!from || Math.max(Math.abs(x), Math.abs(y), Math.abs(from[0]), Math.abs(from[1])) > 1) continue;
    most = Math.max(most, Math.hypot(x - from[0], y - from[1]) / 2);
  }
  return most;
}

function lampIn(lights: ReturnType<typeof placedAimed>['lights'], seen: Seen): string | null {
  for (const light of Object.values(lights)) {
    if (!light.on || light.power === 0 || !light.visibleToCamera || light.kind === 'sun' || light.kind === 'card')
      continue;
    const { x, y, depth } = project(seen, light.position);
    if (depth > 0 && Math.abs(x) < 1 && Math.abs(y) < 1) return light.id;
  }
  return null;
}

/** @param chosen parts were chosen that have to stay in the picture */
function faultsOf(looks: readonly Look[], chosen: boolean): ShotFault[] {
  const faults: ShotFault[] = [];
  const add = (
    kind: ShotFaultKind,
    bad: (look: Look) => boolean,
    amount: (look: Look) => number,
    thing: (look: Look) => string | null = () => null,
  ) => {
    const found = looks.filter(bad);
    if (found.length === 0) return;
    const worst = found.reduce((most, look) => (amount(look) > amount(most) ? look : most));
    faults.push({ kind, spans: spansOf(looks, bad), worst: worst.frame, amount: amount(worst), thing: thing(worst) });
  };
  const stays = looks.some(({ reach }) => reach <= 1);
  // A close-up never shows the whole product; only where that is seen once, or parts were chosen, it has left.
  if (stays || chosen)
    add(
      'leaves',
      ({ reach }) => reach > 1,
      ({ reach }) => reach,
    );
  add(
    'blurred',
    ({ lost }) => lost,
    () => 1,
  );
  if (looks.some(({ edge }) => edge))
    add(
      'edge',
      ({ edge }) => edge,
      () => 1,
    );
  add(
    'inside',
    ({ inside }) => inside !== null,
    () => 1,
    ({ inside }) => inside,
  );
  add(
    'fast',
    ({ speed }) => speed > FAST,
    ({ speed }) => speed,
  );
  // One that is seen all the time is meant to be.
  if (looks.some(({ lamp }) => lamp === null))
    add(
      'lamp',
      ({ lamp }) => lamp !== null,
      () => 1,
      ({ lamp }) => lamp,
    );
  return faults;
}

/** Stretches of frames that lie together. */
function spansOf(looks: readonly Look[], bad: (look: Look) => boolean): [number, number][] {
  const spans: [number, number][] = [];
  looks.forEach((look, k) => {
    if (!bad(look)) return;
    const last = spans.at(-1);
    if (k > 0 && bad(looks[k - 1]!) && last) last[1] = look.frame;
    else spans.push([look.frame, look.frame]);
  });
  return spans;
}
