import type { Tensor } from './weights';

// As much of the Open Neural Network Exchange format (onnx.proto, version 1.16) as a network of convolutions takes, in protocol
// buffers: fields with their number and kind before each value.

const VARINT = 0;
const BYTES = 2;
const FLOAT = 1;
const FLOAT16 = 10;
/** Kinds of attributes. */
const INT = 2;
const STRING = 3;
const INTS = 7;
const IR_VERSION = 8;
const OPERATORS = 13;

type Field = [number: number, value: number | string | Uint8Array | Message];
type Message = Field[];

/** What a network does at one place: an operator with the names of what goes in and comes out. */
export interface Step {
  operator: string;
  inputs: string[];
  output: string;
  attributes?: Record<string, number | string | number[]>;
}

export interface Graph {
  steps: Step[];
  weights: ReadonlyMap<string, Tensor>;
  /** Numbers that operators take besides. */
  constants: Record<string, number[]>;
  input: { name: string; channels: number };
  output: { name: string; channels: number };
}

/** A network as a model file; pictures may have any size. */
export function encodeModel(graph: Graph): Uint8Array {
  const nodes = graph.steps.map((step): Field => [1, nodeOf(step)]);
  const weights = [...graph.weights].map(([name, { dims, halves }]): Field => [5, [...dims.map((each): Field => [1, each]), [2, FLOAT16], [8, name], [9, halves]]]); // prettier-ignore
  const constants = Object.entries(graph.constants).map(([name, values]): Field => [5, [[1, values.length], [2, FLOAT], [8, name], [9, new Uint8Array(new Float32Array(values).buffer)]]]); // prettier-ignore
  const whole: Message = [
    ...nodes,
    [2, 'network'],
    ...weights,
    ...constants,
    [11, pictureOf(graph.input)],
    [12, pictureOf(graph.output)],
  ];
  return encode([
    [1, IR_VERSION],
    [7, whole],
    [8, [[2, OPERATORS]]],
  ]);
}

function nodeOf({ operator, inputs, output, attributes = {} }: Step): Message {
  return [
    ...inputs.map((name): Field => [1, name]),
    [2, output],
    [4, operator],
    ...Object.entries(attributes).map(([name, value]): Field => [5, [[1, name], ...attributeOf(value)]]),
  ];
}

function attributeOf(value: number | string | number[]): Message {
  if (typeof value === 'number') return [[3, value], [20, INT]]; // prettier-ignore
  if (typeof value === 'string') return [[4, value], [20, STRING]]; // prettier-ignore
  return [...value.map((each): Field => [8, each]), [20, INTS]];
}

/** One picture of some channels, its height and width unknown. */
const pictureOf = ({ name, channels }: { name: string; channels: number }): Message => [
  [1, name],
  [2, [[1, [[1, FLOAT], [2, [[1, [[1, 1]]], [1, [[1, channels]]], [1, [[2, 'height']]], [1, [[2, 'width']]]]]]]]],
]; // prettier-ignore

function encode(message: Message): Uint8Array {
  const parts = message.flatMap(([number, value]) => {
    if (typeof value === 'number') return [varint((number << 3) | VARINT), varint(value)];
    const bytes =
      typeof value === 'string' ? new TextEncoder().encode(value) : value instanceof Uint8Array ? value : encode(value);
    return [varint((number << 3) | BYTES), varint(bytes.length), bytes];
  });
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** Seven bits a byte, the lowest first, with the eighth set where more follow. */
function varint(value: number): Uint8Array {
  const bytes: number[] = [];
  let rest = value;
  do {
    const low = rest % 128;
    rest = Math.floor(rest / 128);
    bytes.push(rest > 0 ? low | 128 : low);
  } while (rest > 0);
  return Uint8Array.from(bytes);
}
