import type { Finish, MapSlot } from '../../document';
import { blackBody, LUMENS_PER_WATT, luminance } from '../../optics';
import { WHITE_KELVIN } from '../gltfExtensions';
import type { Model, ModelFinish, ModelMap, ModelPicture } from '../model';
import { findCompanion, type SourceFile } from '../sources';
import { brokenMaterialX, readElements, type Element } from './elements';
import { Graph, type Reading } from './graph';
import { SLOTS, type Slot } from './slots';
import { standardReading, standardValues } from './standardSurface';

/** Shading models that are read. */
const SHADERS = new Set(['open_pbr_surface', 'standard_surface']);
/** Finishes that one file may hold. */
const MOST_FINISHES = 500;

/** What a file of finishes holds: `finishes` wear `pictures` by their position. */
export type FinishFile = Pick<Model, 'finishes' | 'pictures' | 'notes'>;

/**
 * Finishes of a MaterialX file: surfaces of OpenPBR and standard surface, with numbers and pictures as far as there is a counterpart here.
 * @param companions pictures that came along; what the file names is looked for among them alone
 * @throws UserProblem `file-broken`, `file-too-large`
 */
export function readMaterialX(bytes: Uint8Array, name: string, companions: readonly SourceFile[]): FinishFile {
  const root = readElements(bytes, name);
  const notes = new Set<string>();
  const graph = new Graph(root, name, notes);
  const shaders = surfaces(root, graph, notes);
  if (shaders.length === 0) throw brokenMaterialX(name, 'it holds no surface of OpenPBR or standard surface');
  if (shaders.length > MOST_FINISHES) throw brokenMaterialX(name, `it holds more than ${MOST_FINISHES} finishes`);
  const pictures: ModelPicture[] = [];
  const numbers = new Map<string, number | null>();
  const pictureOf = (path: string): number | null => {
    const known = numbers.get(path);
    if (known !== undefined) return known;
    const found = findCompanion(companions, path);
    if (!found)
      notes.add(`The picture "${path.slice(-100)}" did not come along. Bring it with the file, or both as a zip.`);
    const number = found ? pictures.push({ name: found.name, bytes: found.bytes }) - 1 : null;
    numbers.set(path, number);
    return number;
  };
  const finishes = shaders.map((each) => readFinish(graph, each, pictureOf));
  return { finishes, pictures, notes: [...notes] };
}

interface Surface {
  name: string;
  node: Element;
}

/** Nodes that shade, under the names of the materials that wear them; those that none wears too. */
function surfaces(root: Element, graph: Graph, notes: Set<string>): Surface[] {
  const worn = root.children.flatMap((material): Surface[] => {
    const input = material.category === 'surfacematerial' ? graph.input(material, 'surfaceshader') : undefined;
    const node = input && graph.source(input, root)?.node;
    return node ? [{ name: material.attributes['name'] ?? '', node }] : [];
  });
  const all = worn.length > 0 ? worn : root.children.map((node) => ({ name: node.attributes['name'] ?? '', node }));
  for (const { node } of worn)
    if (!SHADERS.has(node.category))
      notes.add(`Surfaces of the kind "${node.category.slice(0, 40)}" are not known here and were left out.`);
  return all.filter(({ node }) => SHADERS.has(node.category));
}

function readFinish(graph: Graph, { name, node }: Surface, pictureOf: (path: string) => number | null): ModelFinish {
  const own = node.category === 'open_pbr_surface';
  const read = (input: string) => (own ? graph.read(node, input) : standardReading(graph, node, input));
  const values: Record<string, unknown> = {};
  const maps: ModelMap[] = [];
  const wear = (slot: MapSlot, { map }: Reading) => {
    const picture = map && pictureOf(map.path);
    if (map && picture !== null) maps.push({ slot, picture, over: map.over });
  };
  for (const slot of SLOTS) {
    const reading = read(slot.input);
    values[slot.name] = reading ? valueOf(slot, reading) : slot.standard;
    if (reading) wear(slot.name as MapSlot, reading);
  }
  const normal = read('geometry_normal');
  if (normal) wear('normal', normal);
  values['specularRotation'] = read('geometry_tangent')?.turn ?? 0;
  if (!own) Object.assign(values, standardValues(graph, node));
  Object.assign(values, emission(read, own, wear));
  return { name: name.replaceAll('_', ' '), values, maps };
}

function valueOf({ type }: Slot, { factor }: Reading): number | boolean | readonly number[] {
  if (type === 'boolean') return factor[0] !== 0;
  if (type === 'float') return factor[0]!;
  return [0, 1, 2].map((k) => factor[k] ?? factor[0]!);
}

/** Luminance in nits; of a standard surface 1 is full white at exposure 0, as programs write it. */
function emission(
  read: (input: string) => Reading | null,
  nits: boolean,
  wear: (slot: MapSlot, reading: Reading) => void,
): Partial<Finish> {
  const [bright, color] = [read('emission_luminance'), read('emission_color')];
  const factor = color?.factor ?? [1, 1, 1];
  const tint = [0, 1, 2].map((k) => factor[k] ?? factor[0]!) as [number, number, number];
  const power = (bright?.factor[0] ?? 0) * luminance(tint) * (nits ? 1 : LUMENS_PER_WATT);
  if (!(power > 0)) return { emissionPower: 0, emissionColor: [1, 1, 1] };
  if (color) wear('emissionColor', color);
  const white = blackBody(WHITE_KELVIN);
  const seen = tint.map((v, k) => v / white[k]!);
  return {
    emissionPower: power,
    emissionUnit: 'nit',
    emissionKelvin: WHITE_KELVIN,
    emissionColor: seen.map((v) => v / Math.max(...seen)) as [number, number, number],
  };
}
