import * as z from 'zod';
import { idSchema, nameSchema, pathSchema } from '../../document/properties/ids';
import { LIMITS } from '../../document/properties/limits';
import { paceSchema, type Pace } from '../../document/properties/pace';
import {
  count,
  direction,
  number,
  shapeOf,
  share,
  still,
  toggle,
  unseen,
  type Property,
  type Table,
} from '../../document/properties/property';
import type { Value } from '../../document/properties/value';
import type { Quaternion, Vector } from '../../geometry';

/** A property of a move: the same over time, and the tracer sees only what the move does. */
export const told = <P extends Property>(of: P): P => unseen(still(of));

/** A triple of its own. */
export const three = ([x, y, z]: Vector): [number, number, number] => [x, y, z];

/** A direction in the space of what the target hangs under. */
export const toldDirection = () => told(direction([0, 1, 0]));

/** What all moves have. */
export const MOVE = {
  start: told(number(1, { min: -1e6, max: 1e6 })),
  /** Frames of one run. */
  length: told(number(96, { unit: 'frames', min: 1, max: LIMITS.framesPerShot })),
  /** How many runs follow one another. */
  repeat: told(count(1, { unit: '×', min: 1, max: 100_000 })),
  /** Every run goes there and back. */
  mirrored: told(toggle(false)),
  muted: told(toggle(false)),
  /** How much of what it does is done. */
  weight: told(share(1)),
  /** Frames by which each copy of what it carries is later than the one before. */
  perCopy: told(number(0, { unit: 'frames', min: -100_000, max: 100_000 })),
} satisfies Table;

const base = { id: idSchema, name: nameSchema, target: pathSchema, ...shapeOf(MOVE), pace: paceSchema };

/** When a move acts and how it paces itself. */
export interface Timed {
  start: number;
  length: number;
  repeat: number;
  mirrored: boolean;
  perCopy: number;
  pace: Pace;
}

/** What a camera is besides its place. */
interface Lens {
  focalLength: number;
  /** Radians about the way it looks. */
  roll: number;
  focusDistance: number;
  /** What it is sharp at instead. */
  pull: PullPose | null;
}

/** On the way from one point of a node to another; null stands for what the thing has itself. */
interface PullPose {
  from: FollowedNode | null;
  to: FollowedNode | null;
  share: number;
}

/** A point in the space of a node, by id. */
interface FollowedNode {
  node: string;
  point: Vector;
}

/** How a thing stands on one frame, in the space of what it hangs under. A move that carries it changes this. */
export interface Pose {
  position: Vector;
  /** What it turns about, from its position; of what is aimed, nothing. */
  pivot: Vector;
  /** What a light or camera looks at; null of what is not aimed. */
  target: Vector | null;
  /** What it looks at instead, once everything has moved. */
  aim: PullPose | null;
  /** What moves add to its own turn. */
  spin: Quaternion;
  /** Of a camera. */
  lens: Lens | null;
}

/** What a move may ask about the rest of the scene. */
export interface Around {
  /** Id of the thing that is carried. */
  id: string;
  /** How far a node has come since another frame, in the space of what the carried thing hangs under; null where it is gone. */
  wayOf(node: string, from: number, to: number): Vector | null;
}

/** From the space of one parent to that of another. */
export interface SpaceChange {
  point(of: Vector): Vector;
  /** A way, with its length. */
  way(of: Vector): Vector;
  /** Turned only. */
  direction(of: Vector): Vector;
}

/** What a move can be put on: whole things, or of one what shines, its colour, or whether it is there. */
export type Carrier = 'nodes' | 'cameras' | 'lights' | 'shine' | 'tint' | 'switch';

/** What kinds of values a move can set. */
export type Driven = 'number' | 'vector' | 'rotation' | 'boolean' | 'choice';

/** What the numbers of a new move go by. */
export interface Occasion {
  /** Axis of the target in the space of what it hangs under. */
  axis: Vector;
  /** Largest extent of the product, millimetres. */
  size: number;
  /** What it shall turn about, in the space of what the target hangs under; null leaves that to the target itself. */
  center: Vector | null;
  /** What the property that is driven is now. */
  present: Value | undefined;
  /** The camera that it is put on. */
  camera: { position: Vector; target: Vector; roll: number; focalLength: number; focusDistance: number } | null;
  /** Nodes below the target and the ways, in the space of what each hangs under, on which they come apart. */
  apart: { node: string; way: Vector }[];
}

interface Common<M> {
  /** What people call a new one. */
  title: string;
  on: readonly Carrier[];
  /** Reaches its end on the frame after its block, so that its first picture is not shown twice. */
  cyclic: boolean;
  pace: Pace;
  /** Its pace changes nothing: it keeps a time of its own. */
  unpaced?: true;
  /** Numbers of a new one that plain defaults do not tell. */
  begin?(occasion: Occasion): Partial<M>;
  /** Whether it ends as it began when it fills the shot. */
  loops?(move: M): boolean;
  /**
   * Makes it end as it began where it fills a shot; without this it goes there and back.
   * @param length frames of the shot
   */
  close?(move: M, length: number): void;
  /** What becomes of frames in it that no table tells, when a second has more or fewer of them. */
  retimed?(move: M, factor: number): void;
}

/** A move that carries whole things. */
interface Carrying<M> extends Common<M> {
  drives: 'place';
  carry(move: M, frame: number, pose: Pose, around: Around): void;
  /** Ids of the nodes that it carries instead of its target. */
  among?(move: M): string[];
  /** Ids of further nodes that it goes by. */
  heeds?(move: M): string[];
  /** Writes other ids for the nodes that it carries or goes by. */
  renamed?(move: M, id: (of: string) => string): void;
  /** What becomes of its numbers when its target is hung under something else, and stays where it is. */
  rehang?(move: M, change: SpaceChange): void;
  /** What becomes of its numbers for one of the copies of its target: `by` from the one to the other, turned before they are laid out. */
  copied?(move: M, by: Vector, turned: (axis: Vector) => Vector): void;
  /** What becomes of its numbers when its target grows. */
  grow?(move: M, factor: number): void;
}

/** A move that sets one property. */
interface Driving<M> extends Common<M> {
  drives: 'value';
  /** The values that it can set. */
  takes: readonly Driven[];
  /** Of several on one property only the one that began last counts, instead of all one after the other. */
  exclusive: boolean;
  /** @param turns whether the property is a turn */
  value(move: M, frame: number, turns: boolean): Value;
  /** Changes the values of the property that it holds. */
  mapValues?(move: M, change: (values: Value[]) => Value[]): void;
}

export type Behaviour<M> = Carrying<M> | Driving<M>;

/**
 * All that core knows of a kind of move: its own properties, besides those of MOVE, and what it does.
 * @param extra parts of its schema that no table can tell, with their defaults
 */
export function moveKind<
  const K extends string,
  T extends Table,
  const E extends Record<string, { schema: z.ZodType; default: unknown }>,
>(kind: K, properties: T, extra: E, behaviour: Behaviour<MoveOf<K, T, E>>) {
  const extras = Object.fromEntries(Object.entries(extra).map(([name, { schema }]) => [name, schema])) as {
    [N in keyof E]: E[N]['schema'];
  };
  const schema = z.object({ ...base, kind: z.literal(kind), ...shapeOf(properties), ...extras });
  return { kind, properties, extra, schema, ...behaviour };
}

type MoveOf<K extends string, T extends Table, E extends Record<string, { schema: z.ZodType; default: unknown }>> = {
  id: string;
  name: string;
  target: string;
  kind: K;
} & Timed & { -readonly [N in keyof T]: z.infer<T[N]['schema']> } & {
    -readonly [N in keyof E]: z.infer<E[N]['schema']>;
  };
