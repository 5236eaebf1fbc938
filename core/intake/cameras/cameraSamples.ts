import {
  newCamera,
  type Camera,
  type Key,
  type ProjectDocument,
  type Shot,
  type Value,
  type Vector3,
} from '../../document';
import {
  add,
  cross,
  dot,
  frameAlong,
  quaternionFromFrame,
  rotateVector,
  scale,
  type Quaternion,
  type Vector,
} from '../../geometry';
import { evaluateProperties, simplifyKeys } from '../../motion';
import { cameraAxes, placedAimed } from '../../scene';

/** A camera on one frame, in the world: lengths in millimetres, the turn from looking along -Z with Y up. */
export interface CameraSample {
  frame: number;
  position: Vector3;
  turn: Quaternion;
  focalLength: number;
  sensorWidth: number;
  focusDistance: number;
  /** 0 is all sharp. */
  fStop: number;
}

/** A camera of a shot on every frame of it. */
export function sampleCamera(document: ProjectDocument, shot: Shot, id: string): CameraSample[] {
  let before: Quaternion = [0, 0, 0, 1];
  return Array.from({ length: shot.length }, (_, k) => {
    const frame = k + 1;
    const camera = placedAimed(evaluateProperties(document, shot, frame)).cameras[id]!;
    const { x, y, z } = cameraAxes(camera);
    const { focalLength, sensorWidth, focusDistance, fStop } = camera;
    const found = quaternionFromFrame(x, y, z);
    // A quaternion and its negative are one turn; the nearer one makes a straight way from frame to frame.
    const turn =
      found.reduce((sum, v, i) => sum + v * before[i]!, 0) < 0
        ? (found.map((v) => -v) as unknown as Quaternion)
        : found;
    before = turn;
    return { frame, position: camera.position, turn, focalLength, sensorWidth, focusDistance, fStop };
  });
}

/** A camera that goes through samples: as it stands on the first, and the keys by which it moves. */
export function cameraOfSamples(
  samples: readonly CameraSample[],
  name: string,
): { camera: Camera; tracks: Record<string, Key[]> } {
  const placed = samples.map((sample) => ({ frame: sample.frame, ...aimedBy(sample) }));
  const first = samples[0]!;
  const camera = newCamera({
    name,
    ...aimedBy(first),
    focalLength: first.focalLength,
    sensorWidth: first.sensorWidth,
    focusDistance: first.focusDistance,
    fStop: first.fStop,
  });
  const tracks: Record<string, Key[]> = {};
  const track = (property: string, of: (k: number) => Value) => {
    const keys = samples.map(({ frame }, k): Key => ({ frame, value: of(k), pace: 'linear' }));
    const kind = typeof keys[0]!.value === 'number' ? 'number' : 'vector';
    const moves = keys.some(({ value }) => JSON.stringify(value) !== JSON.stringify(keys[0]!.value));
    if (moves) tracks[`cameras/${camera.id}/${property}`] = simplifyKeys(keys, kind, STRAIGHT);
  };
  track('position', (k) => placed[k]!.position);
  track('target', (k) => placed[k]!.target);
  track('roll', (k) => placed[k]!.roll);
  for (const property of ['focalLength', 'focusDistance', 'fStop'] as const)
    track(property, (k) => samples[k]![property]);
  return { camera, tracks };
}

/** Of the span of a value, by which keys that are left out may miss it. */
const STRAIGHT = 1e-7;

/** What a camera that is turned looks at, where it is sharp, and how far it leans over. */
function aimedBy({ position, turn, focusDistance }: CameraSample): {
  position: Vector3;
  target: Vector3;
  roll: number;
} {
  const back = rotateVector([0, 0, 1], turn);
  const up = rotateVector([0, 1, 0], turn);
  const level = frameAlong(back);
  // From the level up direction to its own about the way back; roll counts the other way round.
  const roll = -Math.atan2(dot(cross(level.y, up), back), dot(level.y, up));
  return { position, target: add(position, scale(back as Vector, -Math.max(1, focusDistance))), roll };
}
