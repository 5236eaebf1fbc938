import * as z from 'zod';
import { LIMITS } from './limits';
import type { Value } from './value';

/** What a property's value is, which decides how it is shown and how it travels between keys. */
export type ValueKind = 'number' | 'color' | 'place' | 'turn' | 'vector' | 'switch' | 'choice' | 'text';

/** All that is told of a property, in one place: schema, defaults, fields and the names of frames derive from it. */
export interface Property<S extends z.ZodType = z.ZodType> {
  kind: ValueKind;
  schema: S;
  default: z.infer<S>;
  /** What it is shown in, and what one of that is in the document: radians per degree, for one. */
  unit: string;
  scale: number;
  /** Of the arrows of its field, in what is shown. */
  step: number;
  /** Range in the document; of each part where there are several. */
  min: number;
  max: number;
  whole: boolean;
  /** Whether keys and moves may change it, and shots have values of their own. */
  moves: boolean;
  /** Whether the tracer reads it, so that it counts in the names of frames. */
  traced: boolean;
  /** Whether a map can drive it. */
  mapped: boolean;
}

export type Table = Readonly<Record<string, Property>>;

interface Shown {
  unit?: string;
  scale?: number;
  step?: number;
}

interface Range extends Shown {
  min?: number;
  max?: number;
}

const DEGREE = Math.PI / 180;

const property = <S extends z.ZodType>(
  kind: ValueKind,
  schema: S,
  standard: z.infer<S>,
  over: Partial<Omit<Property, 'schema' | 'default' | 'kind'>> = {},
): Property<S> => ({
  kind,
  schema,
  default: standard,
  unit: '',
  scale: 1,
  step: 1,
  min: -Infinity,
  max: Infinity,
  whole: false,
  moves: true,
  traced: true,
  mapped: false,
  ...over,
});

/** A number; without a range it has that of all numbers of a document. */
export function number(standard: number, { min = -1e9, max = 1e9, ...shown }: Range = {}): Property<z.ZodNumber> {
  return property('number', z.number().min(min).max(max), standard, { min, max, ...shown });
}

/** A whole number. */
export function count(standard: number, { min = 0, max = 1e9, ...shown }: Range = {}): Property<z.ZodNumber> {
  return property('number', z.number().int().min(min).max(max), standard, { min, max, whole: true, ...shown });
}

/** A number from 0 to 1. */
export const share = (standard: number): Property<z.ZodNumber> => number(standard, { min: 0, max: 1, step: 0.01 });

/** Millimetres. */
export const length = (standard: number, range: Range = {}): Property<z.ZodNumber> =>
  number(standard, { unit: 'mm', step: 5, ...range });

/** Radians, shown as degrees; the range is in radians too. */
export const angle = (standard: number, range: Range = {}): Property<z.ZodNumber> =>
  number(standard, { unit: '°', scale: DEGREE, ...range });

/** Colour temperature of a black body. */
export const kelvin = (standard: number): Property<z.ZodNumber> =>
  number(standard, { unit: 'K', min: 1000, max: 20_000, step: 50 });

/** Three numbers with one range. */
const triple = (min: number, max: number) => {
  const part = z.number().min(min).max(max);
  return z.tuple([part, part, part]);
};
type Triple = ReturnType<typeof triple>;
type Three = [number, number, number];

/** Linear Rec. 709, not bounded by 1: the colour of a light may exceed it. */
export const color = (standard: Three): Property<Triple> =>
  property('color', triple(0, 1000), standard, { min: 0, max: 1000, step: 0.01 });

/** A place or a way in millimetres. */
export const place = (standard: Three): Property<Triple> =>
  property('place', triple(-LIMITS.coordinate, LIMITS.coordinate), standard, {
    unit: 'mm',
    min: -LIMITS.coordinate,
    max: LIMITS.coordinate,
  });

/** A direction in space, of any length but none. */
export const direction = (standard: Three): Property<Triple> => ({ ...place(standard), unit: '', step: 0.1 });

/** Radians about x, y and z, shown as degrees. */
export const turn = (standard: Three): Property<Triple> =>
  property('turn', triple(-1e9, 1e9), standard, { min: -1e9, max: 1e9, scale: DEGREE });

/** Three numbers that are neither a place nor angles. */
export const vector = (standard: Three, { min = -1e9, max = 1e9, ...shown }: Range = {}): Property<Triple> =>
  property('vector', triple(min, max), standard, { min, max, ...shown });

export const toggle = (standard: boolean): Property<z.ZodBoolean> => property('switch', z.boolean(), standard);

/** One of several names. Where keys may change it, it is held from one to the next. */
export function choice<const T extends readonly [string, ...string[]]>(
  values: T,
  standard: T[number],
): Property<z.ZodType<T[number]>> {
  return property('choice', z.enum(values) as unknown as z.ZodType<T[number]>, standard, { moves: false });
}

/** A few words. */
export const text = (standard: string): Property<z.ZodString> =>
  property('text', z.string().max(LIMITS.nameLength), standard, { moves: false });

/** Keys and shots may change a choice. */
export const moving = <P extends Property>(of: P): P => ({ ...of, moves: true });
/** It is the same over time and in all shots. */
export const still = <P extends Property>(of: P): P => ({ ...of, moves: false });
/** The tracer does not read it. */
export const unseen = <P extends Property>(of: P): P => ({ ...of, traced: false });
/** A map can drive it. */
export const mapped = <P extends Property>(of: P): P & { mapped: true } => ({ ...of, mapped: true });

/** Shape of an object schema with these properties. */
export function shapeOf<T extends Table>(table: T): { [K in keyof T]: T[K]['schema'] } {
  return Object.fromEntries(Object.entries(table).map(([name, { schema }]) => [name, schema])) as {
    [K in keyof T]: T[K]['schema'];
  };
}

/** A fresh object with these properties as they are when nothing else is said. */
export function defaultsOf<T extends Table>(table: T): { [K in keyof T]: z.infer<T[K]['schema']> } {
  return structuredClone(Object.fromEntries(Object.entries(table).map(([name, each]) => [name, each.default]))) as {
    [K in keyof T]: z.infer<T[K]['schema']>;
  };
}

/** Names of the properties that a map can drive. */
export type MappedIn<T extends Table> = {
  [K in keyof T]: T[K] extends { mapped: true } ? K : never;
}[keyof T];

/** The value of a property that is nearest to one that was asked for. */
export function nearest({ min, max, whole }: Property, value: Value): Value {
  if (typeof value === 'boolean' || typeof value === 'string') return value;
  const within = (part: number) => Math.min(max, Math.max(min, whole ? Math.round(part) : part));
  return typeof value === 'number' ? within(value) : (value.map(within) as Three);
}
