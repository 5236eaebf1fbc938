import { z } from 'zod';
import { idSchema, nameSchema, pathSchema } from '../../document/properties/ids';
import { LIMITS } from '../../document/properties/limits';
import { paceSchema, type Pace } from '../../document/properties/pace';
import {
  count,
  direction,
  number,
  shapeOf,
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
} satisfies Table;

const base = { id: idSchema, name: nameSchema, target: pathSchema, ...shapeOf(MOVE), pace: paceSchema };

/** When a move acts and how it paces itself. */
export interface Timed {
  start: number;
  length: number;
  repeat: number;
  mirrored: boolean;
  pace: Pace;
}

/** How a thing stands on one frame, in the space of what it hangs under. A move that carries it changes this. */
export interface Pose {
  position: Vector;
  /** What it turns about, from its position; of what is aimed, nothing. */
  pivot: Vector;
  /** What a light or camera looks at; null of what is not aimed. */
  target: Vector | null;
  /** What moves add to its own turn. */
  spin: Quaternion;
}

/** From the space of one parent to that of another. */
export interface SpaceChange {
  point(of: Vector): Vector;
  /** A way, with its length. */
  way(of: Vector): Vector;
  /** Turned only. */
  direction(of: Vector): Vector;
}

/** What a move can be put on: whole things, or what shines of one. */
export type Carrier = 'nodes' | 'cameras' | 'lights' | 'shine';

/** What the numbers of a new move go by. */
export interface Occasion {
  /** Axis of the target in the space of what it hangs under. */
  axis: Vector;
  /** Largest extent of the product, millimetres. */
  size: number;
  /** What the property that is driven is now. */
  present: Value | undefined;
}

interface Common<M> {
  /** What people call a new one. */
  title: string;
  on: readonly Carrier[];
  /** Reaches its end on the frame after its block, so that its first picture is not shown twice. */
  cyclic: boolean;
  pace: Pace;
  /** Numbers of a new one that plain defaults do not tell. */
  begin?(occasion: Occasion): Partial<M>;
  /** Whether it ends as it began when it fills the shot. */
  loops?(move: M): boolean;
}

/** A move that carries whole things. */
interface Carrying<M> extends Common<M> {
  drives: 'place';
  carry(move: M, frame: number, pose: Pose): void;
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
