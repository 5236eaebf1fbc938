import { unwound } from '../scene';
import type { Document, Node as GltfNode } from '@gltf-transform/core';
import type { Light as GltfLight } from '@gltf-transform/extensions';
import { LIMITS, newCamera, newLight, type Camera, type Key, type Light } from '../document';
import {
  composeTransform,
  decompose,
  invertTransform,
  multiplyTransforms,
  slerp,
  transformPoint,
  type Quaternion,
  type Transform,
  type Vector,
} from '../geometry';

/** A light or camera of a file, where its node has it. */
interface Along<T> {
  /** Position in the model's nodes of what carries it. */
  node: number;
  name: string;
  /** In the node's own space, in the file's unit. */
  position: Vector;
  target: Vector;
  values: T;
}

/** What moves a node of a file: its transform in its parent's space at some seconds. */
export interface AlongMotion {
  node: number;
  /** A value is held until the next instead of going over into it. */
  held: boolean;
  keys: { seconds: number; transform: Transform }[];
}

/** What a file holds besides parts: cameras, lights and motion. */
export interface ModelAlong {
  cameras: Along<Partial<Camera>>[];
  lights: Along<Partial<Light> & Pick<Light, 'kind'>>[];
  motion: AlongMotion[];
}

/** Millimetres before it at which a camera or light that names no target looks, for want of a better one. */
const AHEAD = 1000;
/** Samples a second of motion that is no straight way from key to key. */
const SAMPLES = 24;
const MOST_KEYS = 10_000;
/** Lumens of visible radiation that a candela all round is. */
const LUMENS = 4 * Math.PI;

/** Cameras, lights and motion of a glTF document. @param numbers positions of its nodes in the model */
export function readAlong(document: Document, numbers: ReadonlyMap<GltfNode, number>): ModelAlong {
  const along: ModelAlong = { cameras: [], lights: [], motion: [] };
  for (const [node, number] of numbers) {
    const where = { node: number, position: [0, 0, 0] as Vector, target: [0, 0, -AHEAD / 1000] as Vector };
    const camera = node.getCamera();
    if (camera) {
      const name = node.getName() || camera.getName() || 'Camera';
      const wide = Math.tan(camera.getYFov() / 2) * (camera.getAspectRatio() || 16 / 9);
      const flat = camera.getType() === 'orthographic';
      const values: Partial<Camera> = flat
        ? { projection: 'orthographic', orthographicWidth: clamp(camera.getXMag() * 2 * 1000, 0.1, 1e6) }
        : { focalLength: clamp(newCamera().sensorWidth / 2 / wide, 4, 2000) };
      along.cameras.push({ ...where, name, values });
    }
    const light = node.getExtension<GltfLight>('KHR_lights_punctual');
    if (light) along.lights.push({ ...where, name: node.getName() || light.getName() || 'Light', values: lightValues(light) }); // prettier-ignore
  }
  along.motion = readMotion(document, numbers);
  return along;
}

const clamp = (v: number, least: number, most: number): number =>
  Number.isFinite(v) ? Math.min(most, Math.max(least, v)) : least;

/** What lies farther out than a document can say lies at its end. */
const inReach = (v: number): number => clamp(v, -LIMITS.coordinate, LIMITS.coordinate);

/** Punctual lights as lamps of some size: a bulb, a spot, the sun. Their candela and lux stay what they are. */
function lightValues(light: GltfLight): Partial<Light> & Pick<Light, 'kind'> {
  const tint = light.getColor().map((v) => clamp(v, 0, 1000)) as [number, number, number];
  const power = clamp(light.getIntensity(), 0, 1e9);
  switch (light.getType()) {
    case 'directional':
      return { kind: 'sun', tint, power, unit: 'lux' };
    case 'spot': {
      const outer = clamp(light.getOuterConeAngle(), 0.005, 1.55);
      const penumbra = clamp(1 - light.getInnerConeAngle() / outer, 0, 1);
      return { kind: 'spot', tint, power, unit: 'candela', coneAngle: outer * 2, penumbra };
    }
    default:
      return { kind: 'bulb', tint, power: power * LUMENS, unit: 'lumen' };
  }
}

type Channel = { input: ArrayLike<number>; output: ArrayLike<number>; kind: string; width: number };

/** The first motion of a document: programs write the one that plays first. */
function readMotion(document: Document, numbers: ReadonlyMap<GltfNode, number>): AlongMotion[] {
  const [animation] = document.getRoot().listAnimations();
  const nodes = new Map<GltfNode, Map<string, Channel>>();
  for (const channel of animation?.listChannels() ?? []) {
    const [node, path, sampler] = [channel.getTargetNode(), channel.getTargetPath(), channel.getSampler()];
    const [input, output] = [sampler?.getInput()?.getArray(), sampler?.getOutput()?.getArray()];
    const width = path === 'rotation' ? 4 : 3;
    if (!node || !numbers.has(node) || !path || path === 'weights' || !input?.length || !output) continue;
    const kind = sampler!.getInterpolation();
    if (output.length < input.length * width * (kind === 'CUBICSPLINE' ? 3 : 1)) continue;
    if (![...input].every(Number.isFinite) || ![...output].every(Number.isFinite)) continue;
    const own = nodes.get(node) ?? new Map<string, Channel>();
    own.set(path, { input, output, kind, width });
    nodes.set(node, own);
  }
  return [...nodes].map(([node, channels]) => {
    const all = [...channels.values()];
    const seconds = keyTimes(all);
    return {
      node: numbers.get(node)!,
      held: all.every(({ kind }) => kind === 'STEP'),
      keys: seconds.map((at) => {
        const value = (path: string, rest: readonly number[]) => {
          const channel = channels.get(path);
          return channel ? valueAt(channel, at) : rest;
        };
        const turn = value('rotation', node.getRotation());
        const size = Math.hypot(...turn) || 1;
        return {
          seconds: at,
          transform: composeTransform(
            value('translation', node.getTranslation()) as unknown as Vector,
            turn.map((v) => v / size) as unknown as Quaternion,
            value('scale', node.getScale()) as unknown as Vector,
          ),
        };
      }),
    };
  });
}

/** Seconds at which any of the channels has a key; curved ones are sampled in between. */
function keyTimes(channels: readonly Channel[]): number[] {
  const times = new Set<number>();
  for (const { input, kind } of channels) {
    for (let k = 0; k < input.length; k++) times.add(input[k]!);
    if (kind !== 'CUBICSPLINE') continue;
    const [from, to] = [input[0]!, input[input.length - 1]!];
    for (let at = from; at < to && times.size < MOST_KEYS; at += 1 / SAMPLES) times.add(at);
  }
  return [...times].sort((a, b) => a - b).slice(0, MOST_KEYS);
}

/** The value of a channel as glTF 2.0, appendix C, says. */
function valueAt({ input, output, kind, width }: Channel, seconds: number): number[] {
  let after = 0;
  while (after < input.length && input[after]! <= seconds) after++;
  const from = Math.max(0, after - 1);
  const cubic = kind === 'CUBICSPLINE';
  const read = (key: number, part = 1) =>
    Array.from({ length: width }, (_, k) => output[(cubic ? key * 3 + part : key) * width + k]!);
  if (after === 0 || after >= input.length || kind === 'STEP') return read(from);
  const span = input[after]! - input[from]!;
  const t = span > 0 ? (seconds - input[from]!) / span : 0;
  const [a, b] = [read(from), read(after)];
  if (cubic) {
    const [out, back] = [read(from, 2), read(after, 0)];
    const [t2, t3] = [t * t, t * t * t];
    return a.map((v, k) => (2 * t3 - 3 * t2 + 1) * v + span * (t3 - 2 * t2 + t) * out[k]! + (3 * t2 - 2 * t3) * b[k]! + span * (t3 - t2) * back[k]!); // prettier-ignore
  }
  if (width === 4) return [...slerp(a as unknown as Quaternion, b as unknown as Quaternion, t)];
  return a.map((v, k) => v + (b[k]! - v) * t);
}

/** What came along, in another unit and other axes. @param change from the file's space to the new one */
export function changeAlong(along: ModelAlong, change: Transform): ModelAlong {
  const back = invertTransform(change)!;
  const move = <T>(each: Along<T>): Along<T> => ({
    ...each,
    position: transformPoint(change, each.position),
    target: transformPoint(change, each.target),
  });
  return {
    cameras: along.cameras.map(move),
    lights: along.lights.map(move),
    motion: along.motion.map((each) => ({
      ...each,
      keys: each.keys.map(({ seconds, transform }) => ({
        seconds,
        transform: multiplyTransforms(multiplyTransforms(change, transform), back),
      })),
    })),
  };
}

/** What came along without the nodes that carried it. */
export function alongInWorld(along: ModelAlong, world: readonly Transform[]): ModelAlong {
  const move = <T>(each: Along<T>): Along<T> => ({
    ...each,
    node: -1,
    position: transformPoint(world[each.node]!, each.position),
    target: transformPoint(world[each.node]!, each.target),
  });
  return { cameras: along.cameras.map(move), lights: along.lights.map(move), motion: [] };
}

/** Cameras and lights of a document, carried by the nodes that stand for the model's. @param ids of these, in their order */
export function placeAlong(
  { cameras, lights }: Pick<ModelAlong, 'cameras' | 'lights'>,
  ids: readonly string[],
): { cameras: Camera[]; lights: Light[] } {
  const place = <T>({ node, name, position, target }: Along<T>) => ({
    name: name.slice(0, 200),
    parent: ids[node] ?? null,
    position: position.map(inReach) as [number, number, number],
    target: target.map(inReach) as [number, number, number],
  });
  return {
    cameras: cameras.map((each, k) => newCamera({ ...each.values, ...place(each), order: k })),
    lights: lights.map((each, k) => newLight(each.values.kind, { ...each.values, ...place(each), order: k })),
  };
}

/** Keys of a document for what moves, by the path of their property. */
export function alongTracks(
  motion: readonly AlongMotion[],
  ids: readonly string[],
  frameRate: number,
): Record<string, Key[]> {
  const tracks: Record<string, Key[]> = {};
  for (const { node, held, keys } of motion) {
    const id = ids[node];
    if (!id || keys.length === 0) continue;
    const poses = keys.map(({ seconds, transform }) => ({ frame: 1 + Math.round(seconds * frameRate * 1000) / 1000, ...decompose(transform) })); // prettier-ignore
    for (const property of ['position', 'turn', 'scale'] as const) {
      const given = poses.map((pose) => pose[property]);
      const values = property === 'turn' ? unwound(given) : given;
      if (values.every((value) => value.every((v, k) => Math.abs(v - values[0]![k]!) < 1e-9))) continue;
      tracks[`nodes/${id}/${property}`] = values.map((value, k) => ({ frame: poses[k]!.frame, value, pace: held ? 'held' : 'linear' })); // prettier-ignore
    }
  }
  return tracks;
}
