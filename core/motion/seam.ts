import { readProperty, type ProjectDocument, type Shot } from '../document';
import {
  length,
  multiplyQuaternions,
  polarDecomposition,
  subtract,
  transformPoint,
  type Quaternion,
  type Vector,
} from '../geometry';
import { localTransform, type SceneState } from '../scene';
import { evaluateProperties } from './evaluate';
import { behaviourOf, changedBy } from './moves';
import { movedPart } from './movedPart';

/** Something that does not run evenly from a shot's last frame into its first. */
export interface SeamFault {
  /** The thing, such as `nodes/ID`, or the property, such as `lights/ID/power`. */
  path: string;
  /** What of it: its place or what it looks at in millimetres, its turn in radians, or a property in its own unit. */
  of: 'place' | 'aim' | 'turn' | 'value';
  /** How far the frame after the last one is from the first; 0 where only the speed differs. */
  jump: number;
  /** How far it goes in a frame before and after the seam. */
  before: number;
  after: number;
  /** Arrives where it began on the last frame already, so that a loop shows it twice. */
  twice: boolean;
}

/** Frames between whose neighbours the shot's own changes of speed are looked for. */
const MOST_LOOKED_AT = 240;
/** A jump counts from this part of the largest step of the shot. */
const PART_OF_STEP = 0.01;
/** Changes of speed count from this part of the largest step, beyond what the shot itself changes its speed by elsewhere. */
const PART_OF_SPEED = 0.02;
const BEYOND_OWN = 1.5;
/** What moves by less than this part of the largest step has all but stopped. */
const PART_OF_REST = 0.05;

/** One moving thing: how it stands in an evaluated state, and the way from one stand to another as a vector. */
interface Channel {
  path: string;
  of: SeamFault['of'];
  stand(state: SceneState): readonly number[];
  way(from: readonly number[], to: readonly number[]): Vector;
}

/**
 * Looks whether a shot can be looped: the frame that would follow its last one has to be the first, reached at the same speed.
 * Switches and kinks that the shot has within itself are no fault at the seam.
 * @returns null where nothing moves
 */
export function findSeamFaults(document: ProjectDocument, shot: Shot): SeamFault[] | null {
  const channels = channelsOf(document, shot);
  if (channels.length === 0) return null;
  const moved = movedPart(document, shot);
  const state = (frame: number) => evaluateProperties(moved, shot, frame);
  const last = shot.length;
  const ends = [state(1), state(2), state(last - 1), state(last), state(last + 1)] as const;
  const stride = Math.max(1, Math.floor((last - 2) / MOST_LOOKED_AT));
  const own = channels.map(() => ({ step: 0, change: 0 }));
  for (let frame = 2; frame < last; frame += stride) {
    const around = [state(frame - 1), state(frame), state(frame + 1)] as const;
    channels.forEach((channel, k) => {
      const [a, b, c] = around.map((each) => channel.stand(each)) as [number[], number[], number[]];
      const [came, goes] = [channel.way(a, b), channel.way(b, c)];
      own[k]!.step = Math.max(own[k]!.step, length(came), length(goes));
      own[k]!.change = Math.max(own[k]!.change, length(subtract(goes, came)));
    });
  }
  return channels.flatMap(({ path, of, stand, way }, k) => {
    const [first, second, nearly, end, beyond] = ends.map(stand) as [number[], number[], number[], number[], number[]];
    const [before, after] = [way(end, beyond), way(first, second)];
    const jump = length(way(beyond, first));
    const step = Math.max(own[k]!.step, length(before), length(after));
    const usual = BEYOND_OWN * own[k]!.change;
    const jumps = jump > Math.max(1e-6, PART_OF_STEP * step) && jump > usual;
    const turns = length(subtract(after, before)) > Math.max(1e-6, usual + PART_OF_SPEED * step);
    const rest = Math.max(1e-6, PART_OF_REST * step);
    const arrives = length(way(nearly, end));
    const twice = length(way(end, first)) < 1e-6 && arrives > rest && length(after) > rest;
    const fault = {
      path,
      of,
      jump: jumps ? jump : 0,
      before: twice ? arrives : length(before),
      after: length(after),
      twice,
    };
    return jumps || turns || twice ? [fault] : [];
  });
}

/** Paths of which a place and a direction are made. */
const PLACED = /^(nodes|cameras|lights)\/([^/]+)\/(position|turn|target|roll|pivot)$/;

function channelsOf(document: ProjectDocument, { tracks, moves }: Shot): Channel[] {
  const things = new Set<string>();
  const values = new Set<string>();
  const add = (path: string) => {
    const placed = PLACED.exec(path);
    if (placed) things.add(`${placed[1]}/${placed[2]}`);
    else values.add(path);
  };
  for (const path of Object.keys(tracks)) add(path);
  for (const move of Object.values(moves)) {
    for (const path of move.muted ? [] : changedBy(move)) {
      if (behaviourOf(move).drives === 'value') add(path);
      else things.add(path);
    }
  }
  return [
    ...[...things].flatMap((path) => placeChannels(document, path)),
    ...[...values].filter((path) => readProperty(document, path) !== undefined).map(valueChannel),
  ];
}

function placeChannels(document: ProjectDocument, path: string): Channel[] {
  const [collection, id] = path.split('/') as ['nodes' | 'cameras' | 'lights', string];
  if (!document[collection][id]) return [];
  if (collection === 'nodes') {
    const transform = (state: SceneState) => localTransform(state.nodes[id]!, state.spins.get(id));
    return [
      { path, of: 'place', stand: (state) => transformPoint(transform(state), state.nodes[id]!.pivot), way: straight },
      { path, of: 'turn', stand: (state) => polarDecomposition(transform(state)).rotation, way: rotation },
    ];
  }
  return [
    { path, of: 'place', stand: (state) => state[collection][id]!.position, way: straight },
    { path, of: 'aim', stand: (state) => state[collection][id]!.target, way: straight },
    ...(collection === 'cameras'
      ? [
          { path, of: 'turn' as const, stand: (state: SceneState) => [state.cameras[id]!.roll], way: straight },
          valueChannel(`${path}/focalLength`),
        ]
      : []),
  ];
}

/** A number that tells names apart. */
const codeOf = (name: string): number => [...name].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 9973, 7);

/** Numbers as they are, colours and places as vectors, switches as 0 and 1, choices as what tells them apart. */
const valueChannel = (path: string): Channel => ({
  path,
  of: 'value',
  stand: (state) => {
    const value = readProperty(state, path);
    if (typeof value === 'string') return [codeOf(value)];
    return Array.isArray(value) ? value : [Number(value ?? 0)];
  },
  way: straight,
});

const straight = (from: readonly number[], to: readonly number[]): Vector => [
  to[0]! - from[0]!,
  (to[1] ?? 0) - (from[1] ?? 0),
  (to[2] ?? 0) - (from[2] ?? 0),
];

/** The turn from one rotation to another the short way: its axis, as long as its angle in radians. */
function rotation(from: readonly number[], to: readonly number[]): Vector {
  const [x, y, z, w] = multiplyQuaternions(to as Quaternion, [-from[0]!, -from[1]!, -from[2]!, from[3]!]);
  const sine = Math.hypot(x, y, z);
  if (sine < 1e-12) return [0, 0, 0];
  const scale = (2 * Math.atan2(sine, Math.abs(w))) / sine / (w < 0 ? -1 : 1);
  return [x * scale, y * scale, z * scale];
}
