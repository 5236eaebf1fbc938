import { XMLBuilder } from 'fast-xml-parser';
import { isColorSlot, lowestLayer, type Finish, type FinishMap, type MapSlot } from '../../document';
import { lightColor, LUMENS_PER_WATT, partRadiance, pictureOfSource } from '../../optics';
import { shareOf } from './graph';
import { isWritten } from './leftOut';
import { SLOTS, type Slot } from './slots';

type Written = Record<string, unknown>;
type Attributes = Record<string, string>;

/** Square millimetres over which lumens and watts are spread: MaterialX knows a surface's luminance alone. */
const SPREAD = 10_000;

const element = (tag: string, attributes: Attributes, children: Written[] = []): Written => ({
  [tag]: children,
  ':@': attributes,
});
const input = (name: string, type: string, attributes: Attributes): Written =>
  element('input', { name, type, ...attributes });
const text = (value: number | boolean | readonly number[]): string =>
  typeof value === 'object' ? value.map(short).join(', ') : typeof value === 'number' ? short(value) : String(value);
const short = (value: number): string => String(Number(value.toPrecision(12)));

/** Nodes of the file, each before the one that reads it. */
class Nodes {
  readonly list: Written[] = [];

  /** @returns its name */
  add(category: string, name: string, type: string, inputs: Written[]): string {
    this.list.push(element(category, { name, type }, inputs));
    return name;
  }
}

/**
 * A finish as a MaterialX 1.39 file: one `open_pbr_surface`, with its pictures beside it.
 * @param fileOf path of a picture beside the file; null where it is not there
 */
export function writeMaterialX(finish: Finish, fileOf: (picture: string) => string | null): string {
  const nodes = new Nodes();
  const inputs: Written[] = [];
  for (const slot of SLOTS) {
    const value = finish[slot.name] as number | boolean | readonly number[];
    const map = writeMap(nodes, finish, slot, fileOf);
    if (map) inputs.push(input(slot.input, slot.type, { nodename: map }));
    else if (text(value) !== text(slot.standard))
      inputs.push(
        input(slot.input, slot.type, {
          value: text(value),
          ...(slot.long ? { unittype: 'distance', unit: 'millimeter' } : {}),
        }),
      );
  }
  const relief = lowestLayer(finish, 'normal');
  const steep = relief && writePicture(nodes, 'normal', relief, 'vector3', fileOf);
  if (steep) {
    const normal = nodes.add('normalmap', 'relief', 'vector3', [
      input('in', 'vector3', { nodename: steep }),
      input('scale', 'float', { value: short(relief.strength) }),
    ]);
    inputs.push(input('geometry_normal', 'vector3', { nodename: normal }));
  }
  if (finish.specularRotation !== 0) {
    const world = input('space', 'string', { value: 'world' });
    const grain = nodes.add('rotate3d', 'grain', 'vector3', [
      input('in', 'vector3', { nodename: nodes.add('tangent', 'along', 'vector3', [world]) }),
      input('amount', 'float', { value: short((finish.specularRotation * 180) / Math.PI) }),
      input('axis', 'vector3', { nodename: nodes.add('normal', 'upwards', 'vector3', [world]) }),
    ]);
    inputs.push(input('geometry_tangent', 'vector3', { nodename: grain }));
  }
  inputs.push(...writeEmission(finish));
  const tree = [
    { '?xml': [{ '#text': '' }], ':@': { version: '1.0' } },
    element('materialx', { version: '1.39', colorspace: 'lin_rec709' }, [
      ...nodes.list,
      element('open_pbr_surface', { name: 'surface', type: 'surfaceshader' }, inputs),
      element('surfacematerial', { name: nodeName(finish.name), type: 'material' }, [
        input('surfaceshader', 'surfaceshader', { nodename: 'surface' }),
      ]),
    ]),
  ];
  return new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    format: true,
    suppressEmptyNode: true,
  }).build(tree);
}

/** @returns name of the node that gives the parameter's value */
function writeMap(nodes: Nodes, finish: Finish, slot: Slot, fileOf: (picture: string) => string | null): string | null {
  const map = lowestLayer(finish, slot.name as MapSlot);
  if (!map) return null;
  const picture = writePicture(nodes, slot.input, map, isColorSlot(slot.name as MapSlot) ? 'color3' : 'float', fileOf);
  if (picture === null) return null;
  const value = finish[slot.name] as number | readonly number[];
  return nodes.add('multiply', slot.input, slot.type, [
    input('in1', slot.type, { nodename: picture }),
    input('in2', slot.type, { value: text(value) }),
  ]);
}

/** A picture with what is made of its values. @returns name of the last node; null where it cannot be said */
function writePicture(
  nodes: Nodes,
  name: string,
  map: FinishMap,
  type: 'color3' | 'float' | 'vector3',
  fileOf: (picture: string) => string | null,
): string | null {
  const picture = isWritten(map) ? pictureOfSource(map.source) : null;
  const file = picture === null ? null : fileOf(picture);
  if (file === null) return null;
  const single = type === 'float';
  // Single numbers are one channel of a picture whose others may drive something else.
  const stored = single ? 'color4' : type;
  const from = (last: string, of: string) => input('in', of, { nodename: last });
  let last = nodes.add('tiledimage', `${name}_picture`, stored, [
    input('file', 'filename', { value: file, colorspace: map.coding === 'srgb' ? 'srgb_texture' : 'lin_rec709' }),
    input('uvtiling', 'vector2', { value: text([map.repeatU, map.repeatV]) }),
    input('uvoffset', 'vector2', { value: text([-map.offsetU + 0, shareOf(map.offsetV - 1 + map.repeatV)]) }),
  ]);
  if (type === 'vector3') return last;
  if (single && map.channel === 'brightness') {
    last = nodes.add('convert', `${name}_opaque`, 'color3', [from(last, 'color4')]);
    last = nodes.add('luminance', `${name}_brightness`, 'color3', [from(last, 'color3')]);
    last = nodes.add('extract', `${name}_value`, 'float', [
      from(last, 'color3'),
      input('index', 'integer', { value: '0' }),
    ]);
  } else if (single) {
    const index = ['red', 'green', 'blue', 'alpha'].indexOf(map.channel);
    const which = input('index', 'integer', { value: String(index) });
    last = nodes.add('extract', `${name}_value`, 'float', [from(last, 'color4'), which]);
  }
  const { low, high, curve } = map;
  const [dark, bright] = map.inverted ? [map.bright, map.dark] : [map.dark, map.bright];
  if (dark === 0 && bright === 1 && curve === 1 && low === 0 && high === 1) return last;
  const range = { inlow: dark, inhigh: bright, gamma: 1 / curve, outlow: low, outhigh: high };
  return nodes.add('range', `${name}_range`, type, [
    from(last, type),
    ...Object.entries(range).map(([key, value]) => input(key, 'float', { value: short(value) })),
  ]);
}

function writeEmission(finish: Finish): Written[] {
  const radiance = partRadiance(finish, 1, SPREAD);
  if (!(radiance > 0)) return [];
  return [
    input('emission_luminance', 'float', { value: short(radiance * LUMENS_PER_WATT) }),
    input('emission_color', 'color3', { value: text(lightColor(finish.emissionKelvin, finish.emissionColor)) }),
  ];
}

/** Names of nodes are of letters, digits and underscores. */
const nodeName = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .replace(/^(?=\d)/, '_') || 'Finish';
