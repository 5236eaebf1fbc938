import type { FinishMap } from '../../document';
import { decodeSrgb, luminance } from '../../optics';
import { brokenMaterialX, type Element } from './elements';

/** What an input comes to: numbers, times what a picture gives where there is one. */
export interface Reading {
  /** One number, or those of a colour or direction. */
  factor: readonly number[];
  map: PictureReading | null;
  /** Radians by which a direction is turned about the surface's normal. */
  turn?: number;
}

/** A node, what holds it, and which of its outputs is meant. */
interface Source {
  node: Element;
  within: Element;
  output: string | undefined;
}

/** A picture as a file names it, and how it is laid on and read. */
interface PictureReading {
  path: string;
  over: Partial<FinishMap>;
}

/** Longest way from an input to where its value is said. */
const MOST_STEPS = 200;
/** Nodes that are looked at in one file: a node that two inputs lead to is looked at twice, and so on with those before it. */
const MOST_VISITS = 200_000;

const plain = (factor: readonly number[]): Reading => ({ factor, map: null });
const CHANNELS = ['red', 'green', 'blue', 'alpha'] as const;
/** Number of a channel by its letter, which is that of a colour or of a direction; the first where none is said. */
const channelCalled = (letter = 'r'): number => Math.max(0, 'rgba'.indexOf(letter), 'xyzw'.indexOf(letter));

/**
 * Follows the inputs of a MaterialX file to numbers and pictures. What has no counterpart is said, and gives nothing.
 * @param name of the file, for sentences
 */
export class Graph {
  private visits = 0;

  constructor(
    private readonly root: Element,
    private readonly name: string,
    private readonly notes: Set<string>,
  ) {}

  /** An element of the file's top, or of a graph in it. */
  find(name: string, within: Element = this.root): Element | undefined {
    return within.children.find(({ attributes }) => attributes['name'] === name);
  }

  input(node: Element, name: string): Element | undefined {
    return node.children.find(({ category, attributes }) => category === 'input' && attributes['name'] === name);
  }

  /**
   * What an input of a node comes to; null where it is not said, or not in words that are known here.
   * @param within what holds the node
   * @throws UserProblem `file-broken` where nodes go round in a circle
   */
  read(node: Element, name: string, within: Element = this.root, steps = 0): Reading | null {
    const input = this.input(node, name);
    return input ? this.value(input, within, steps) : null;
  }

  /** Node that an input is connected to, and what holds it. */
  source(input: Element, within: Element, steps = 0): Source | null {
    if (steps > MOST_STEPS) throw brokenMaterialX(this.name, 'its nodes go round in a circle');
    const { nodename, nodegraph, output, interfacename } = input.attributes;
    if (interfacename !== undefined) {
      const given = this.input(within, interfacename);
      return given ? this.source(given, this.root, steps + 1) : null;
    }
    if (nodegraph !== undefined) {
      const graph = this.find(nodegraph);
      const outputs = graph?.children.filter(({ category }) => category === 'output') ?? [];
      const found = outputs.find(({ attributes }) => attributes['name'] === output) ?? outputs[0];
      return graph && found ? this.source(found, graph, steps + 1) : null;
    }
    const node = nodename === undefined ? undefined : this.find(nodename, within);
    // A graph's own output is named by its node alone.
    return node ? { node, within, output } : null;
  }

  private value(input: Element, within: Element, steps: number): Reading | null {
    if (steps > MOST_STEPS) throw brokenMaterialX(this.name, 'its nodes go round in a circle');
    if (++this.visits > MOST_VISITS) throw brokenMaterialX(this.name, 'its nodes lead to each other too often');
    const { value, interfacename } = input.attributes;
    const source = this.source(input, within);
    if (source) return this.node(source, steps + 1);
    if (interfacename !== undefined) {
      const given = this.input(within, interfacename);
      return given ? this.value(given, this.root, steps + 1) : null;
    }
    return value === undefined ? null : this.literal(input, value);
  }

  private literal({ attributes }: Element, value: string): Reading | null {
    if (value === 'true' || value === 'false') return plain([value === 'true' ? 1 : 0]);
    const numbers = value.split(',').map(Number);
    if (!numbers.every(Number.isFinite)) return null;
    const coded = attributes['type'] === 'color3' && this.isCoded(attributes);
    return plain(coded ? numbers.map(decodeSrgb) : numbers.map((each) => each * unitOf(attributes)));
  }

  /** Whether colours are coded for a display; of a picture that says nothing, the file's own space counts. */
  private isCoded(attributes: Element['attributes']): boolean {
    const space = attributes['colorspace'] ?? this.root.attributes['colorspace'] ?? '';
    if (!/^(|srgb_texture|srgb|g22_rec709|lin_rec709(_scene)?|lin_srgb|linear|raw|none|data)$/i.test(space))
      this.notes.add(`The colour space "${space.slice(0, 40)}" is not known; its values were taken as linear BT.709.`);
    return /^(srgb_texture|srgb|g22_rec709)$/i.test(space);
  }

  private node({ node, within, output }: Source, steps: number): Reading | null {
    const read = (name: string) => this.read(node, name, within, steps);
    const numbers = (name: string, standard: number): readonly number[] => {
      const found = read(name);
      return found && !found.map ? found.factor : [standard];
    };
    switch (node.category) {
      case 'constant':
        return read('value');
      case 'image':
      case 'tiledimage':
        return this.picture(node, within, steps);
      case 'normalmap': {
        const seen = read('in');
        const scale = numbers('scale', 1)[0]!;
        return seen?.map ? { factor: [1], map: { ...seen.map, over: { ...seen.map.over, strength: scale } } } : null;
      }
      case 'rotate3d':
        return { ...plain([1, 0, 0]), turn: (numbers('amount', 0)[0]! * Math.PI) / 180 };
      case 'multiply':
        return this.product(read('in1') ?? plain([1]), read('in2') ?? plain([1]));
      case 'invert': {
        const seen = read('in');
        const amount = numbers('amount', 1)[0]!;
        if (!seen?.map) return seen && plain(seen.factor.map((each) => amount - each));
        const { low = 0, high = 1 } = seen.map.over;
        return { ...seen, map: { ...seen.map, over: { ...seen.map.over, low: amount - low, high: amount - high } } };
      }
      case 'power': {
        const [base, exponent] = [read('in1'), numbers('in2', 1)[0]!];
        if (!base?.map) return base && plain(base.factor.map((each) => Math.max(0, each) ** exponent));
        return { ...base, map: { ...base.map, over: { ...base.map.over, curve: exponent } } };
      }
      case 'range':
      case 'remap':
        return this.remapped(read('in'), numbers);
      case 'extract':
        return this.channel(read('in'), numbers('index', 0)[0]!);
      case 'swizzle':
        return this.channel(read('in'), channelCalled(this.input(node, 'channels')?.attributes['value']?.[0]));
      case 'separate2':
      case 'separate3':
      case 'separate4':
        return this.channel(read('in'), channelCalled(output?.at(-1)));
      case 'luminance': {
        const seen = read('in');
        if (!seen?.map) return seen && plain([luminance(seen.factor as [number, number, number])]);
        return { ...seen, map: { ...seen.map, over: { ...seen.map.over, channel: 'brightness' } } };
      }
      case 'combine2':
      case 'combine3': {
        const parts = ['in1', 'in2', 'in3'].flatMap((name) => read(name) ?? []);
        return parts.find(({ map }) => map) ?? plain(parts.map(({ factor }) => factor[0]!));
      }
      case 'convert':
      case 'dot':
      case 'clamp':
        return read('in');
      case 'add':
      case 'subtract':
      case 'divide':
      case 'min':
      case 'max': {
        const [a, b] = [read('in1'), read('in2')];
        if (a && b && !a.map && !b.map)
          return plain(paired(a.factor, b.factor).map(([p, q]) => ARITHMETIC[node.category]!(p, q)));
        break;
      }
      case 'mix': {
        const [over, under, share] = [read('fg'), read('bg'), read('mix')];
        if (over && under && share && !over.map && !under.map && !share.map)
          return plain(paired(over.factor, under.factor).map(([p, q]) => p * share.factor[0]! + q * (1 - share.factor[0]!))); // prettier-ignore
        break;
      }
    }
    this.notes.add(
      `What nodes of the kind "${node.category.slice(0, 40)}" do there is not known here and was left out.`,
    );
    return null;
  }

  private picture(node: Element, within: Element, steps: number): Reading | null {
    const file = this.input(node, 'file');
    const given = file?.attributes['interfacename'];
    const said = given === undefined ? file : this.input(within, given);
    const path = said?.attributes['value'];
    if (!said || !path) return null;
    if (/<(udim|uvtile)>/i.test(path)) {
      this.notes.add('Pictures that are cut up over many tiles (UDIM) were left out.');
      return null;
    }
    const prefix = within.attributes['fileprefix'] ?? this.root.attributes['fileprefix'] ?? '';
    const pair = (from: Element, name: string, standard: readonly [number, number], holds = within) => {
      const found = this.read(from, name, holds, steps)?.factor ?? standard;
      return [found[0] ?? standard[0], found[1] ?? found[0] ?? standard[1]] as const;
    };
    let place: Partial<FinishMap> = {};
    const texcoord = this.input(node, 'texcoord');
    const placed = texcoord && this.source(texcoord, within);
    if (placed?.node.category === 'place2d') {
      const [u, v] = pair(placed.node, 'scale', [1, 1], placed.within);
      const [x, y] = pair(placed.node, 'offset', [0, 0], placed.within);
      place = upright(1 / (u || 1), 1 / (v || 1), x, y);
      if (this.read(placed.node, 'rotate', placed.within, steps)?.factor[0])
        this.notes.add('The turn of pictures was left out.');
    } else if (
      placed?.node.category === 'texcoord' &&
      this.read(placed.node, 'index', placed.within, steps)?.factor[0]
    ) {
      this.notes.add('Pictures that use a second set of coordinates were left out.');
      return null;
    }
    if (node.category === 'tiledimage')
      place = upright(...pair(node, 'uvtiling', [1, 1]), ...pair(node, 'uvoffset', [0, 0]));
    const coded = node.attributes['type']?.startsWith('color') && this.isCoded(said.attributes);
    return { factor: [1], map: { path: prefix + path, over: { coding: coded ? 'srgb' : 'linear', ...place } } };
  }

  private product(a: Reading, b: Reading): Reading {
    if (a.map && b.map) this.notes.add('Of two pictures that are multiplied the first was taken.');
    return { factor: paired(a.factor, b.factor).map(([p, q]) => p * q), map: a.map ?? b.map };
  }

  private remapped(
    seen: Reading | null,
    numbers: (name: string, standard: number) => readonly number[],
  ): Reading | null {
    if (!seen) return null;
    const [dark, bright, low, high] = [numbers('inlow', 0)[0]!, numbers('inhigh', 1)[0]!, numbers('outlow', 0)[0]!, numbers('outhigh', 1)[0]!]; // prettier-ignore
    const gamma = numbers('gamma', 1)[0]!;
    if (seen.map) {
      if (seen.map.over.curve !== undefined) this.notes.add('Of several ranges in a row the last was taken.');
      const turned = dark > bright;
      const range = { dark: turned ? bright : dark, bright: turned ? dark : bright, inverted: turned, low, high, curve: 1 / gamma }; // prettier-ignore
      return { ...seen, map: { ...seen.map, over: { ...seen.map.over, ...range } } };
    }
    return plain(
      seen.factor.map((each) => low + (high - low) * Math.max(0, (each - dark) / (bright - dark || 1)) ** (1 / gamma)),
    );
  }

  private channel(seen: Reading | null, index: number): Reading | null {
    if (!seen?.map) return seen && plain([seen.factor[index] ?? seen.factor[0]!]);
    return { ...seen, map: { ...seen.map, over: { ...seen.map.over, channel: CHANNELS[index] ?? 'red' } } };
  }
}

const ARITHMETIC: Record<string, (a: number, b: number) => number> = {
  add: (a, b) => a + b,
  subtract: (a, b) => a - b,
  divide: (a, b) => a / (b || 1),
  min: Math.min,
  max: Math.max,
};

/** Two lists of numbers side by side, where one number alone stands for all. */
const paired = (a: readonly number[], b: readonly number[]): [number, number][] =>
  Array.from({ length: Math.max(a.length, b.length) }, (_, k) => [a[k] ?? a[0]!, b[k] ?? b[0]!]);

/** MaterialX counts the second coordinate from the picture's lower edge, and takes its offset off. */
const upright = (repeatU: number, repeatV: number, x: number, y: number): Partial<FinishMap> => ({
  repeatU,
  repeatV,
  offsetU: -x + 0,
  offsetV: shareOf(1 - repeatV + y),
});

/** Whole pictures more or less make no difference. */
export const shareOf = (offset: number): number => (Math.round((offset - Math.floor(offset)) * 1e9) / 1e9) % 1;

/** Millimetres in the units of length that MaterialX knows. */
const LENGTHS: Record<string, number> = {
  nanometer: 1e-6,
  micron: 1e-3,
  millimeter: 1,
  centimeter: 10,
  inch: 25.4,
  foot: 304.8,
  yard: 914.4,
  meter: 1000,
  kilometer: 1e6,
  mile: 1_609_344,
};

const unitOf = ({ unit, unittype }: Element['attributes']): number =>
  unittype === 'distance' || unittype === undefined ? (LENGTHS[unit ?? ''] ?? 1) : 1;
